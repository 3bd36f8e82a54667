# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/lists
      module Lists
        def self.registered(app)
          app.get "/api/lists" do
            json(lists: ListJson.rows(asker: account))
          end

          app.post "/api/lists" do
            list =
              Work::KeepList.make(
                input[:name],
                input[:from] && PeopleAsked.chosen(input[:from].transform_keys(&:to_sym), moment),
                made_from: input[:made_from],
                moment: moment
              )
            json(ListJson.rows(list.id, asker: account).first, 201)
          end

          app.patch "/api/lists/:id" do
            list = fetch_record(Records::List, params[:id], "list")
            list.change!({name: input[:name].strip}, version: input[:version], now: moment.now)
            json(ListJson.rows(list.id, asker: account).first)
          end

          app.delete "/api/lists/:id" do
            list = fetch_record(Records::List, params[:id], "list")
            Work::WhereUsed.refuse_if_used!("list", list.name, Work::WhereUsed.new(account).list(list))
            list.delete
            json({})
          end
        end
      end
    end
  end
end
