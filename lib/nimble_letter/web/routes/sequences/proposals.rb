# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/sequences/:id/proposal: a change of a sequence that runs, before it is made
      module Proposals
        # What these routes share.
        module Helpers
          def proposal = @proposal ||= Work::ChangePlan.new(fetch_record(Records::Sequence, params[:id], "sequence"), moment)

          def as_proposed = json(SequenceJson.proposed(proposal, moment))
        end

        def self.registered(app)
          app.helpers Helpers

          app.get "/api/sequences/:id/proposal" do
            json(ProposalJson.write(proposal, counts: params["counts"].to_s == "true"))
          end

          app.put "/api/sequences/:id/proposal" do
            proposal.propose(input.except(:version), version: input[:version])
            as_proposed
          end

          app.post "/api/sequences/:id/proposal/discard" do
            proposal.discard(version: input[:version])
            as_proposed
          end

          app.get("/api/sequences/:id/proposal/plan") { as_proposed }

          app.post "/api/sequences/:id/proposal/effect" do
            changed = proposal.effect(version: input[:version], letters: input[:letters] || [], proposed: input.fetch(:proposed, true))
            json(SequenceJson.new(changed.refresh, moment).write)
          end

          app.get "/api/sequences/:id/proposal/people" do
            ids = Work::BehindProposal.new(proposal).people(params["kind"], of: params["of"]&.to_i)
            json(PersonRows.page(Records::Person.where(Sequel[:people][:id] => ids), moment: moment, cursor: params["cursor"]))
          end
        end
      end
    end
  end
end
