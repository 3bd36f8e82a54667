# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/deliveries: a letter as it looked; settling one in doubt
      module Deliveries
        def self.registered(app)
          app.get "/api/deliveries/:id" do
            json(DeliveryJson.write(fetch_record(Records::Delivery, params[:id], "letter")))
          end

          app.post "/api/deliveries/:id/settle" do
            delivery = fetch_record(Records::Delivery, params[:id], "letter")
            Work::SettleDelivery.call(delivery, input[:verdict], moment: moment)
            json(DeliveryJson.write(delivery.refresh))
          end
        end
      end
    end
  end
end
