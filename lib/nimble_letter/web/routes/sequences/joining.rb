# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/sequences/:id/joining: by what people join by themselves; /api/join-rules: one of these rules
      module Joining
        # What these routes share.
        module Helpers
          def join_rule = @join_rule ||= fetch_record(Records::JoinRule, params[:id], "rule")

          def join_outlook
            @join_outlook ||= begin
              sequence = fetch_record(Records::Sequence, params[:id], "sequence")
              Work::JoinOutlook.new(Work::KeepRule.read(sequence, input, moment: moment), moment)
            end
          end

          def join_rules(sequence) = Records::JoinRule.where(sequence_id: sequence.id).order(:id).all

          def one_rule(rule) = JoinRuleJson.rows([rule.refresh], moment).first
        end

        def self.registered(app)
          app.helpers Helpers

          app.get "/api/sequences/:id/joining" do
            json(rules: JoinRuleJson.rows(join_rules(fetch_record(Records::Sequence, params[:id], "sequence")), moment))
          end

          app.post "/api/sequences/:id/joining" do
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            json(one_rule(Work::KeepRule.make(sequence, input, moment: moment)), 201)
          end

          app.post("/api/sequences/:id/joining/outlook") { json(join_outlook.call) }

          app.post "/api/sequences/:id/joining/outlook/people" do
            people = input[:would_get_it] ? join_outlook.would_get_it : join_outlook.people
            json(PersonRows.page(people, moment: moment, cursor: input[:cursor]))
          end

          app.patch("/api/join-rules/:id") { json(one_rule(Work::KeepRule.change(join_rule, input, moment: moment))) }

          app.delete "/api/join-rules/:id" do
            Work::KeepRule.drop(join_rule, moment: moment)
            json({})
          end

          app.get "/api/join-rules/:id/people" do
            behind = (params["part"] == "waiting") ? join_rule.waits : Records::Member.where(rule_id: join_rule.id)
            people = Records::Person.where(Sequel[:people][:id] => behind.select(:person_id))
            json(PersonRows.page(people, moment: moment, cursor: params["cursor"]))
          end
        end
      end
    end
  end
end
