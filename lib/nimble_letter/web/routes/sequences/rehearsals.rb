# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/sequences/:id/rehearsal: a sequence on paper, and who is behind its numbers
      module Rehearsals
        KEPT = Work::KeptRehearsals.new

        # What these routes share.
        module Helpers
          # @return [Array(String, Work::Rehearsed)] the one that is asked about, or one that is run now
          def rehearsed
            sequence = fetch_record(Records::Sequence, params[:id], "sequence")
            kept = KEPT.fetch(input[:run], sequence.id)
            return [input[:run], kept] if kept

            KEPT.keep(Work::Rehearse.new(sequence, moment, assumption: Work::Assumed.from(input, sequence)).call)
          end

          # @return [Work::Rehearsed] the one whose numbers are shown, and no other
          def rehearsed_then
            kept = input[:run] && KEPT.fetch(input[:run], params[:id].to_i)
            return kept || rehearsed.last if kept || input[:run].nil?

            raise Conflict.new("This rehearsal is not kept any more.", code: :rehearsal_gone,
              hint: "Rehearse it again, then open the number.")
          end

          def span_asked
            from, to = %i[from to].map { |name| input[name] && Date.iso8601(input[name]) }
            Work::Rehearsed::Span.new(from, to)
          rescue Date::Error
            raise Invalid.new("That is no day.", at: "from")
          end

          # @return [Array<Integer>]
          def people_behind(run)
            return run.ways.find { |way| way.key == input[:way] }&.people || [] if input[:way]
            return run.people_out((input[:out] == "through") ? nil : input[:out]) if input[:out]
            return run.people if input[:of] == "everybody"
            return run.people_with_a_task if input[:of] == "every_task"

            letters = input.fetch(:of, "letters") == "letters"
            run.people_with(letters: letters, whose: input[:whose], span: span_asked, why: input[:why]&.to_sym)
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.post "/api/sequences/:id/rehearsal" do
            key, run = rehearsed
            rehearsal = RehearsalJson.new(run)
            json(input[:person_id] ? rehearsal.person(input[:person_id]) : rehearsal.write(key))
          end

          app.post "/api/sequences/:id/rehearsal/people" do
            people = Records::Person.where(Sequel[:people][:id] => people_behind(rehearsed_then))
            json(PersonRows.page(people, moment: moment, cursor: input[:cursor]))
          end
        end
      end
    end
  end
end
