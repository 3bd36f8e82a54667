# frozen_string_literal: true

module NimbleLetter
  module Web
    # What every request does when the database is in trouble: one that lost a race against another is made once more, as
    # long as none of it has been done for good; while the records are away the answer is 503, and nothing is lost.
    class DatabaseTrouble
      MOST_TRIES = 4
      RETRY_AFTER_SECONDS = "3"
      AWAY = {
        code: "database_away",
        message: "The records cannot be reached just now.",
        hint: "Nothing is lost. This is tried again by itself."
      }.freeze

      # @return [Array] the Rack answer while the records are away
      def self.away
        status, headers, body = Problem.response(503, **AWAY)
        [status, headers.merge("retry-after" => RETRY_AFTER_SECONDS, "cache-control" => "no-store"), body]
      end

      # @param pause [#call] given the number of tries so far
      def initialize(app, pause: ->(tries) { IO.select(nil, nil, nil, 0.02 * tries) })
        @app, @pause = app, pause
      end

      def call(env)
        tries = 0
        begin
          tries += 1
          committed = Records::Commits.count
          @app.call(env.dup)
        rescue *Records::Patience::RACES
          return self.class.away if tries == MOST_TRIES || Records::Commits.count > committed || !again?(env)

          @pause.call(tries)
          retry
        end
      rescue *Records::Patience::AWAY => error
        Log.warn("the database is away", error)
        self.class.away
      end

      private

      # A body that is read piece by piece as it comes cannot be read twice.
      def again?(env)
        body = env["rack.input"]
        return true if body.nil?

        body.respond_to?(:rewind) && body.rewind
        body.respond_to?(:rewind)
      end
    end
  end
end
