# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/practice/clock
      module Practice
        STEPS = {"hour" => 3600, "day" => 86_400}.freeze

        # What these routes share.
        module Helpers
          def clock_json(clock) = {now: clock.now, target: clock.target}

          # The next letter or the next thing a character does; an hour when nothing is ahead.
          def next_thing(now)
            reaction = Records.db[:practice_reactions].where(done: false).where { at > now }.min(:at)
            letter =
              (
                if Work::PostHold.current
                  nil
                else
                  Records::Delivery
                    .where(state: "due", sequence_id: Records::Sequence.where(state: "running").select(:id))
                    .where { due_at > now }
                    .min(:due_at)
                end
              )
            [reaction, letter].compact.min || now + STEPS["hour"]
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/practice/clock") { json(clock_json(settings.clock)) }

          app.post "/api/practice/clock" do
            now = settings.clock.target || moment.now
            settings.clock.advance_to((input[:forward] == "next") ? next_thing(now) : now + STEPS.fetch(input[:forward]))
            json(clock_json(settings.clock), 202)
          end
        end
      end
    end
  end
end
