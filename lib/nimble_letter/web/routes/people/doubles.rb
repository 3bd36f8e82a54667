# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/doubles: likely doubles, kept apart or merged
      module Doubles
        def self.registered(app)
          app.get "/api/doubles" do
            pairs = Records::LikelyDoubles.find
            people = Records::Person.where(id: pairs.flat_map { |pair| [pair.first_id, pair.second_id] }.uniq).all
            rows = PersonRows.write(people).to_h { |row| [row[:id], row] }
            json(
              pairs:
                pairs.map do |pair|
                  {
                    first: rows.fetch(pair.first_id),
                    second: rows.fetch(pair.second_id),
                    reason: pair.reason,
                    words: Core::Doubles::REASONS.fetch(pair.reason)
                  }
                end
            )
          end

          app.post "/api/doubles/apart" do
            ids = [input[:first_id], input[:second_id]].sort
            raise NotFound.new("One of these records is gone.") unless Records::Person.where(id: ids).count == 2

            Records.db[:not_doubles].insert_ignore.insert(first_id: ids.first, second_id: ids.last)
            json({})
          end

          app.post "/api/people/:id/merge" do
            kept = fetch_record(Records::Person, params[:id], "person")
            gone = fetch_record(Records::Person, input[:with], "person")
            set =
              Work::MergeRecords.call(
                kept,
                gone,
                input.fetch(:values, {}),
                versions: [input[:version], input[:with_version]],
                moment: moment
              )
            json(ChangeJson.rows([set], moment).first)
          end
        end
      end
    end
  end
end
