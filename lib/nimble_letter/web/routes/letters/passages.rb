# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/passages
      module Passages
        # What these routes share.
        module Helpers
          def passage = @passage ||= fetch_record(Records::Passage, params[:id], "passage")

          def passage_json(one, uses = Work::WhereUsed.new.passage(one))
            {
              **one.values.slice(:id, :name, :version, :updated_at),
              documents: one.documents,
              words: one.summary[0, 300],
              author: Records::Account.where(id: one.account_id).get(:name),
              used_in: uses
            }
          end

          def keeping = Work::KeepPassage.new(moment)
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/passages") do
            json(
              passages:
                Work::WhereUsed.new.then { |used| Records::Passage.order(:name).all.map { |one| passage_json(one, used.passage(one)) } }
            )
          end

          app.post("/api/passages") { json(passage_json(keeping.make(**input)), 201) }

          app.get("/api/passages/:id") { json(passage_json(passage)) }

          app.patch("/api/passages/:id") { json(passage_json(keeping.change(passage, input))) }

          app.delete "/api/passages/:id" do
            keeping.remove(passage)
            json(removed: true)
          end
        end
      end
    end
  end
end
