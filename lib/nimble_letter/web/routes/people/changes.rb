# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/changes: acts on many records, their progress, and taking them back
      module Changes
        RECENT = 30

        def self.registered(app)
          app.get "/api/changes" do
            json(changes: ChangeJson.rows(Records::ChangeSet.newest_first.limit(RECENT).all, moment))
          end

          app.post "/api/changes" do
            act = Work::Act.new(input[:act], moment)
            asked = input[:people].transform_keys(&:to_sym)
            people = PeopleAsked.chosen(act.in_bin? ? asked.merge(binned: true) : asked, moment)
            json(ChangeJson.rows([Work::ChangeMany.start(act, people, moment: moment)], moment).first, 201)
          end

          app.get "/api/changes/:id" do
            json(ChangeJson.rows([fetch_record(Records::ChangeSet, params[:id], "change")], moment).first)
          end

          app.post "/api/changes/:id/undo" do
            undone = Work::TakeBack.start(fetch_record(Records::ChangeSet, params[:id], "change"), moment: moment)
            json(ChangeJson.rows([undone], moment).first)
          end

          app.get "/api/changes/:id/joined" do
            members = Work::JoinedThrough.members(fetch_record(Records::ChangeSet, params[:id], "change"), moment)
            people = Records::Person.where(Sequel[:people][:id] => members.select(:person_id))
            json(PersonRows.page(people, moment: moment, cursor: params["cursor"]))
          end

          app.post "/api/changes/:id/remove-joined" do
            set = fetch_record(Records::ChangeSet, params[:id], "change")
            json(changes: ChangeJson.rows(Work::JoinedThrough.remove(set, moment), moment))
          end

          app.get "/api/changes/:id/kept" do
            set = fetch_record(Records::ChangeSet, params[:id], "change")
            json(
              PersonRows.page(
                Records::Person.where(Sequel[:people][:id] => set.entries_dataset.where(state: "kept").select(:person_id)),
                moment: moment,
                cursor: params["cursor"]
              )
            )
          end

          app.get "/api/changes/:id/stays-out" do
            out = Work::StaysOut.members(fetch_record(Records::ChangeSet, params[:id], "change"))
            people = Records::Person.where(Sequel[:people][:id] => out.select(:person_id))
            json(PersonRows.page(people, moment: moment, cursor: params["cursor"]))
          end
        end
      end
    end
  end
end
