# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/results and the results of one sequence
      module Results
        def self.registered(app)
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
            json(Work::Results.new(fetch_record(Records::Sequence, params[:id], "sequence")).call)
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
