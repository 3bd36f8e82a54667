# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/people: search, add, read, change, history, notes
      module People
        def self.registered(app)
          app.post "/api/people/search" do
            tree = Core::Conditions::Parser.new.parse!(input[:condition])
            people = Records::Person.dataset.where(moment.sql.read(tree))
            people = people.with_words(input[:words]) if input[:words]
            json(PersonRows.page(people, cursor: input[:cursor], limit: input.fetch(:limit, 60)))
          end

          app.post "/api/people" do
            person = Work::ChangePerson.create(PersonInput.columns(input, moment), tags: input[:tags], moment: moment)
            json(PersonJson.write(person.refresh), 201)
          end

          app.get "/api/people/:id" do
            json(PersonJson.write(fetch_record(Records::Person, params[:id], "person")))
          end

          app.patch "/api/people/:id" do
            person = fetch_record(Records::Person, params[:id], "person")
            raise Invalid.new("Say which version you changed.", at: "version") unless input[:version]

            Work::ChangePerson.call(person, PersonInput.columns(input, moment), version: input[:version], tags: input[:tags], moment: moment)
            json(PersonJson.write(person.refresh))
          end

          app.get "/api/people/:id/history" do
            person = fetch_record(Records::Person, params[:id], "person")
            events, following = Records::Cursor.page(Records::Event.where(person_id: person.id).newest_first, time: :occurred_at, cursor: params["cursor"], limit: 50)
            json(entries: HistoryWords.new(events).entries, next_cursor: following)
          end

          app.post "/api/people/:id/notes" do
            person = fetch_record(Records::Person, params[:id], "person")
            Work::Happening.call("note", at: moment.now, person_id: person.id, account_id: account.id, data: {text: input[:text].strip})
            json({}, 201)
          end
        end
      end
    end
  end
end
