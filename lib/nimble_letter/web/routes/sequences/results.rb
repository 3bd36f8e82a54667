# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/results and the results of one sequence
      module Results
        # What these routes share.
        module Helpers
          # @param people [Sequel::Dataset]
          # @param condition [Hash] that may give the same people
          # @return [String] a letter to them, as a draft
          def write_again(people, condition)
            chosen = SamePeople.of(people, condition, moment)[:chosen]
            raise Invalid.new("They are too many to be taken one by one.", code: :too_many, at: "people") unless chosen

            audience = chosen[:ids] ? {"people" => chosen[:ids]} : {"condition" => chosen[:condition]}
            made = Work::PlanSequence.make(name: nil, audience: audience, letter: {}, moment: moment)
            json(SequenceJson.new(made, moment).write, 201)
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.post "/api/sequences/:id/write-again" do
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            results, step_id = Work::Results.new(sequence), input[:step_id]
            write_again(results.people_of("quiet", step_id: step_id), results.condition_of("quiet", step_id: step_id))
          end

          app.post "/api/letters/:id/write-again" do
            letter = fetch_record(Records::Letter, params[:id], "letter")
            figures = Work::LetterFigures
            write_again(figures.people_of(letter, "quiet"), figures.condition_of(letter, "quiet"))
          end

          app.get "/api/results" do
            started = Records::Sequence.exclude(state: "draft").order(Sequel.desc(:started_at)).all
            json(
sequences: started.map { |sequence|
  results = Work::Results.new(sequence).call
  {
    **sequence.values.slice(:id, :name, :state, :started_at),
    people: results[:people],
    value_pence: results[:value_pence],
    figures: results[:total]
  }
}
)
          end

          app.get "/api/sequences/:id/results" do
            json(Work::Results.new(fetch_record(Records::Sequence, params[:id], "sequence")).call(each_once: true))
          end

          app.get "/api/sequences/:id/results/people" do
            results = Work::Results.new(fetch_record(Records::Sequence, params[:id], "sequence"))
            figure, step_id = params["figure"], params["step_id"]&.to_i
            people, same = results.people_of(figure, step_id: step_id), results.condition_of(figure, step_id: step_id)
            json(PersonRows.page(people, moment: moment, cursor: params["cursor"], condition: same))
          end
        end
      end
    end
  end
end
