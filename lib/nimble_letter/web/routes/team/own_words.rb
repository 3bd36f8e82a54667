# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/own-words: outcomes of tasks and kinds of conversions; /api/status-sets: what is said of members
      module OwnWords
        # What these routes share.
        module Helpers
          def own_words = json(words: Work::OwnWords.of(params[:kind]))

          def status_set(set) = set.values.slice(:id, :name, :version).merge(statuses: set.statuses)
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/own-words/:kind") { own_words }

          app.put "/api/own-words/:kind" do
            Work::OwnWords.put(params[:kind], input[:words], moment: moment)
            own_words
          end

          app.get("/api/status-sets") { json(sets: Records::StatusSet.order(:id).map { |set| status_set(set) }) }

          app.post "/api/status-sets" do
            json(status_set(Work::KeepStatusSet.make(input[:name], input[:statuses], moment: moment)), 201)
          end

          app.patch "/api/status-sets/:id" do
            moment.admin!
            set = fetch_record(Records::StatusSet, params[:id], "set of statuses")
            changes = {name: input[:name], statuses: input[:statuses]}
            json(status_set(Work::KeepStatusSet.change(set, **changes, version: input[:version], moment: moment)))
          end
        end
      end
    end
  end
end
