# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/deals: deals behind a number, and one of them; /api/people/:id/deals: a new one
      module Deals
        def self.registered(app)
          app.post "/api/people/:id/deals" do
            person = fetch_record(Records::Person, params[:id], "person")
            json(DealJson.write(Work::ChangeDeal.create(person, input, moment: moment)), 201)
          end

          app.get "/api/deals" do
            asked = {stage: params["stage"], company_id: params["company_id"]&.to_i}.compact
            json(DealJson.page(asked, outcome: params["outcome"], cursor: params["cursor"]))
          end

          app.patch "/api/deals/:id" do
            deal = fetch_record(Records::Deal, params[:id], "deal")
            json(DealJson.write(Work::ChangeDeal.call(deal, input, version: input[:version], moment: moment)))
          end
        end
      end
    end
  end
end
