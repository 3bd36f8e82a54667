# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/letters/:id/versions, /api/passages/:id/versions: what a text was, two of them side by side, the way back
      module Versions
        # What these routes share. `letter`, `writing`, `passage` and `keeping` are the routes' of letters and passages.
        module Helpers
          def kept(record) = Work::Versions.new(record, moment)

          def versions_json(versions)
            authors = Records::Account.select_hash(:id, :name)
            rows = versions.all.select(:number, :account_id, :kind, :went_back_to, :created_at, :updated_at)
            shown = rows.order(Sequel.desc(:number)).map { |row| {**row.values.except(:account_id), author: authors[row.account_id]} }
            {versions: shown, **versions.places}
          end

          def compared(record)
            one = kept(record).find!(params[:number]).content
            other = params["with"] ? kept(record).find!(params["with"]).content : JSON.parse(JSON.generate(record.content))
            {parts: Work::CompareVersions.call(one, other, moment.catalogue)}
          end
        end

        def self.registered(app)
          app.helpers Helpers
          app.get("/api/letters/:id/versions") { json(versions_json(kept(letter))) }
          app.get("/api/passages/:id/versions") { json(versions_json(kept(passage))) }

          app.post("/api/letters/:id/versions") { json(number: writing.set_aside(letter, input).number) }
          app.post("/api/passages/:id/versions") { json(number: keeping.set_aside(passage, input).number) }

          app.get("/api/letters/:id/versions/:number") { json(compared(letter)) }
          app.get("/api/passages/:id/versions/:number") { json(compared(passage)) }

          app.post("/api/letters/:id/versions/:number/restore") do
            saved(writing.restore(letter, kept(letter).find!(params[:number]), number: input[:version]))
          end
          app.post("/api/passages/:id/versions/:number/restore") do
            json(passage_json(keeping.restore(passage, kept(passage).find!(params[:number]), number: input[:version])))
          end
        end
      end
    end
  end
end
