# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/filters: named conditions, shared or one's own
      module Filters
        def self.registered(app)
          app.get "/api/filters" do
            used = Work::WhereUsed.new
            json(filters: Records::SavedFilter.seen_by(account).order(:name).all.map { |filter| FilterJson.write(filter, used) })
          end

          app.post("/api/filters") { json(FilterJson.write(Work::KeepFilter.new(moment).make(input)), 201) }

          app.patch "/api/filters/:id" do
            filter = fetch_record(Records::SavedFilter.seen_by(account), params[:id], "filter")
            json(FilterJson.write(Work::KeepFilter.new(moment).change(filter, input, version: input[:version])))
          end

          app.delete "/api/filters/:id" do
            Work::KeepFilter.new(moment).take_away(fetch_record(Records::SavedFilter.seen_by(account), params[:id], "filter"))
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
              used_in: Work::WhereUsed.new.filter(filter),
              as_of: moment.now
            )
          end
        end
      end
    end
  end
end
