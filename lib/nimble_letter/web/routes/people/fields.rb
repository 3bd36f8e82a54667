# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/fields: the fields a firm makes; /api/stages: the stages of its deals; /api/blocked: the do-not-mail list;
      # /api/plus-tags: which addresses are one
      module Fields
        def self.registered(app)
          app.get "/api/fields" do
            used = Work::WhereUsed.new(account)
            json(fields: Records::CustomField.order(:id).all.map { |field| FieldJson.write(field, used) })
          end

          app.post "/api/fields" do
            json(FieldJson.write(Work::OwnField.make(input, moment: moment)), 201)
          end

          app.patch "/api/fields/:id" do
            json(
              FieldJson.write(
                Work::OwnField.change(
                  fetch_record(Records::CustomField, params[:id], "field"),
                  input,
                  version: input[:version],
                  moment: moment
                )
              )
            )
          end

          app.get "/api/stages" do
            json(stages: FieldJson.stages)
          end

          app.put "/api/stages" do
            Work::DealStages.put(input[:stages], moment: moment)
            json(stages: FieldJson.stages)
          end

          app.get "/api/blocked" do
            json(FieldJson.blocked)
          end

          app.post "/api/blocked" do
            Work::BlockAddress.put(kind: input[:kind], value: input[:value], reason: input[:reason], moment: moment)
            json(FieldJson.blocked, 201)
          end

          app.delete "/api/blocked/:id" do
            Work::BlockAddress.take_off(fetch_record(Records::BlockedAddress, params[:id], "entry"), moment: moment)
            json(FieldJson.blocked)
          end

          app.get "/api/blocked/:id/people" do
            entry = fetch_record(Records::BlockedAddress, params[:id], "entry")
            json(PersonRows.page(entry.people.kept, moment: moment, cursor: params["cursor"], condition: entry.condition))
          end

          app.put "/api/plus-tags" do
            Work::ChoosePlusTags.call(input[:plus_tags], moment: moment)
            json(FieldJson.blocked)
          end
        end
      end
    end
  end
end
