# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/steps/:id/stack: the actual letters of one step
      module Stack
        # What these routes share.
        module Helpers
          def stack
            @step = fetch_record(Records::Step, params[:id], "step")
            raise Invalid.new("This step has no letter yet.", code: :no_letter) unless @step.letter

            Work::Stack.new(@step, moment)
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.get "/api/steps/:id/stack" do
            list = stack.list(after: params["after"].to_i)
            steps = @step.sequence.steps
            json(list.merge(sequence: {id: @step.sequence_id, name: @step.sequence.name},
              step: {id: @step.id, position: steps.index { |step| step.id == @step.id } + 1, of: steps.size, letter: @step.letter.name, letter_id: @step.letter_id}))
          end

          app.get "/api/steps/:id/stack/:person_id" do
            json(stack.letter(fetch_record(Records::Person, params[:person_id], "person")))
          end

          app.put "/api/steps/:id/stack/:person_id" do
            person = fetch_record(Records::Person, params[:person_id], "person")
            stack.then do |letters|
              letters.write_line(person, input[:line])
              json(letters.letter(person))
            end
          end
        end
      end
    end
  end
end
