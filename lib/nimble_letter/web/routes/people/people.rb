# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/people: the table, add, read, change, history, notes and calls, addresses, why
      module People
        def self.registered(app)
          app.post "/api/people/search" do
            people = PeopleAsked.dataset(input, moment)
            table = Records::PeopleTable.new(people, sort: input[:sort])
            rows =
              PersonRows.write(
                table.page(offset: input.fetch(:offset, 0), limit: input.fetch(:limit, 60)),
                columns: input.fetch(:columns, [])
              )
            total = people.count
            following = input.fetch(:offset, 0) + rows.size
            same = input[:same] ? SamePeople.of(people, input[:condition], moment) : {}
            json(people: rows, total: total, next_cursor: (following.to_s if rows.any? && following < total), as_of: moment.now, **same)
          end

          app.post "/api/people" do
            json(PersonJson.write(Work::ChangePerson.create(input.fetch(:values), moment: moment).refresh), 201)
          end

          app.get "/api/people/:id" do
            json(PersonJson.write(fetch_record(Records::Person, params[:id], "person")))
          end

          app.patch "/api/people/:id" do
            person = fetch_record(Records::Person, params[:id], "person")
            Work::ChangePerson.call(person, input.fetch(:values), version: input[:version], moment: moment)
            json(PersonJson.write(person.refresh))
          end

          app.get "/api/people/:id/history" do
            person = fetch_record(Records::Person, params[:id], "person")
            events = Records::Event.where(person_id: person.id)
            events = events.where(kind: HistoryWords.kinds(params["about"])) if params["about"]
            events, following = Records::Cursor.page(events.newest_first, time: :occurred_at, cursor: params["cursor"], limit: 50)
            json(entries: HistoryWords.new(events, moment).entries, next_cursor: following)
          end

          app.post "/api/people/:id/notes" do
            person = fetch_record(Records::Person, params[:id], "person")
            Work::Happening.call(
              input.fetch(:kind, "note"),
              at: moment.now,
              person_id: person.id,
              account_id: account.id,
              data: {text: input[:text].strip, outcome: input[:outcome]}.compact
            )
            json({}, 201)
          end

          app.post "/api/people/:id/wants-letters" do
            person = fetch_record(Records::Person, params[:id], "person")
            Work::TakeNoBack.call(person, input[:how], moment: moment)
            json(PersonJson.write(person.refresh))
          end

          app.post "/api/people/:id/addresses" do
            person = fetch_record(Records::Person, params[:id], "person")
            Work::PersonAddresses.new(person, moment).put(input[:email], as: input.fetch(:as, "further"), version: input[:version])
            json(PersonJson.write(person.refresh))
          end

          app.delete "/api/people/:id/addresses/:address_id" do
            person = fetch_record(Records::Person, params[:id], "person")
            person.other_addresses_dataset.where(id: params[:address_id].to_i).delete
            json(PersonJson.write(person.refresh))
          end

          app.post "/api/people/:id/why" do
            person = fetch_record(Records::Person, params[:id], "person")
            json(WhyJson.write(person, moment.audience(input[:audience]), moment))
          end
        end
      end
    end
  end
end
