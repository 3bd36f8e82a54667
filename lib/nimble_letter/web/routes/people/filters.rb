# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/filters: named conditions, shared or one's own
      module Filters
        def self.registered(app)
          app.get "/api/filters" do
            json(filters: Records::SavedFilter.seen_by(account).order(:name).all.map { |filter| FilterJson.write(filter) })
          end

          app.post "/api/filters" do
            moment.parser.parse!(input[:condition])
            filter =
              Records::SavedFilter.create(
                name: input[:name].strip,
                condition: input[:condition],
                shared: input.fetch(:shared, true),
                view: input[:view],
                account_id: account.id,
                created_at: moment.now,
                updated_at: moment.now
              )
            json(FilterJson.write(filter), 201)
          end

          app.patch "/api/filters/:id" do
            filter = fetch_record(Records::SavedFilter.seen_by(account), params[:id], "filter")
            moment.parser.parse!(input[:condition]) if input[:condition]
            changes = {name: input[:name]&.strip, condition: input[:condition], shared: input[:shared], view: input[:view]}.compact
            Work::WhereUsed.refuse_if_used!("filter", filter.name, Work::WhereUsed.filter(filter)) if changes[:shared] == false
            json(FilterJson.write(filter.change!(changes, version: input[:version], now: moment.now)))
          end

          app.delete "/api/filters/:id" do
            filter = fetch_record(Records::SavedFilter.seen_by(account), params[:id], "filter")
            Work::WhereUsed.refuse_if_used!("filter", filter.name, Work::WhereUsed.filter(filter))
            filter.delete
            json({})
          end

          # What another condition would mean, before it is saved.
          app.post "/api/filters/:id/effect" do
            filter = fetch_record(Records::SavedFilter.seen_by(account), params[:id], "filter")
            read = ->(condition) { Records::Person.kept.where(moment.sql.read(moment.parser.parse!(condition))) }
            now, wanted = read.call(filter.condition), read.call(input[:condition])
            ids = ->(dataset) { dataset.select(Sequel[:people][:id]) }
            json(
              now: now.count,
              then: wanted.count,
              join: wanted.exclude(Sequel[:people][:id] => ids.call(now)).count,
              leave: now.exclude(Sequel[:people][:id] => ids.call(wanted)).count,
              used_in: Work::WhereUsed.filter(filter),
              as_of: moment.now
            )
          end
        end
      end
    end
  end
end
