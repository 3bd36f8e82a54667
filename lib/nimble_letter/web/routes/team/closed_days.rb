# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/closed-days: when the firm is closed
      module ClosedDays
        def self.registered(app)
          app.get("/api/closed-days") { json(closed: Records::Firm.current.closed) }

          app.put "/api/closed-days" do
            Work::KeepClosedDays.call(input[:closed], moment: moment)
            json(closed: Records::Firm.current.closed)
          end
        end
      end
    end
  end
end
