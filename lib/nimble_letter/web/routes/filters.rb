# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/filters
      module Filters
        def self.registered(app)
          app.get "/api/filters" do
            json(filters: Records::SavedFilter.order(:name).all.map { |filter| FilterJson.write(filter) })
          end

          app.post "/api/filters" do
            Core::Conditions::Parser.new.parse!(input[:condition])
            filter = Records::SavedFilter.create(name: input[:name].strip, condition: input[:condition], account_id: account.id, created_at: moment.now, updated_at: moment.now)
            json(FilterJson.write(filter), 201)
          end

          app.patch "/api/filters/:id" do
            filter = fetch_record(Records::SavedFilter, params[:id], "filter")
            Core::Conditions::Parser.new.parse!(input[:condition]) if input[:condition]
            changes = {name: input[:name]&.strip, condition: input[:condition]}.compact
            json(FilterJson.write(filter.change!(changes, version: input[:version], now: moment.now)))
          end
        end
      end
    end
  end
end
