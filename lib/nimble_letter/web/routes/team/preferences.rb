# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/preferences: what a colleague chose for themselves, e.g. the columns of their table
      module Preferences
        KEYS = %w[people_view].freeze

        def self.registered(app)
          app.get "/api/preferences" do
            kept =
              Records.db[:account_settings]
                .where(account_id: account.id)
                .select_hash(:key, :value)
                .transform_values { |text| JSON.parse(text) }
            json(preferences: kept)
          end

          app.put "/api/preferences/:key" do
            raise NotFound.new("There is no such preference.") unless KEYS.include?(params[:key])

            text = JSON.generate(input[:value])
            raise Invalid.new("This is too long to keep.", at: "value") if text.bytesize > 20_000

            Records.db[:account_settings].on_duplicate_key_update(value: text).insert(
              account_id: account.id,
              key: params[:key],
              value: text
            )
            json({})
          end
        end
      end
    end
  end
end
