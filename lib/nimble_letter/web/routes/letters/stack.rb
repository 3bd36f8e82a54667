# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/steps/:id/stack: the actual letters of one step
      module Stack
        # What these routes share.
        module Helpers
          def stack = Work::Stack.new(written_step, moment)

          def stack_list = Work::StackList.new(written_step, moment)

          def written_step
            raise Invalid.new("This step has no letter yet.", code: :no_letter) unless step.letter

            step
          end

          def step
            @step ||= fetch_record(Records::Step, params[:id], "step").tap { |step|
              raise NotFound.new("This step was taken out of the plan.", hint: "Open the sequence to see what is in it.") if step.out_at
            }
          end

          def stacked_person = @stacked_person ||= fetch_record(Records::Person, params[:person_id], "person")

          def into_letter = Work::WriteIntoLetter.new(step, stacked_person, moment)
        end

        def self.registered(app)
          app.helpers Helpers

          app.get "/api/steps/:id/stack" do
            list = stack_list.call(only: params["only"] || "all", from: [params["from"].to_i, 0].max)
            steps = step.sequence.steps
            json(
              list.merge(
                sequence: {
                  id: step.sequence_id,
                  name: step.sequence.name
                },
                step: {
                  id: step.id,
                  position: steps.index { |one| one.id == step.id } + 1,
                  of: steps.size,
                  letter: step.letter.name,
                  letter_id: step.letter_id
                }
              )
            )
          end

          app.get("/api/steps/:id/stack/next-gap") { json(at: stack_list.next_gap(params["after"].to_i)) }

          app.get("/api/steps/:id/reader") { json(Work::Stack.new(step, moment).reader || {total: 0}) }

          app.get("/api/steps/:id/stack/:person_id") { json(stack.letter(stacked_person)) }

          app.get("/api/steps/:id/stack/:person_id/shown") { paper(stack.html(stacked_person)) }

          app.put "/api/steps/:id/stack/:person_id" do
            into_letter.line(input[:line], after: input[:after])
            json(stack.letter(stacked_person))
          end

          app.put "/api/steps/:id/stack/:person_id/fills" do
            into_letter.fill(input[:field], input[:value])
            json(stack.letter(stacked_person))
          end
        end
      end
    end
  end
end
