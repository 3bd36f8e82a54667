# frozen_string_literal: true

require "rack"

module NimbleLetter
  module Web
    # Whatever goes wrong around the API is told as the API tells it: a request that nobody can read is refused, and what is
    # our fault says so and nothing of our insides.
    class Mishaps
      OUR_FAULT = {
        code: "our_fault",
        message: "Something went wrong on our side.",
        hint: "Try again. What you typed is kept on this page."
      }.freeze

      UNREADABLE = {code: "unreadable", message: "This request cannot be read."}.freeze

      # @param status [Integer]
      # @return [Array] the Rack answer to what never became a request, as well
      def self.unreadable(status = 400) = Problem.response(status, **((status < 500) ? UNREADABLE : OUR_FAULT))

      def initialize(app) = @app = app

      def call(env)
        @app.call(env)
      rescue Rack::BadRequest, EncodingError, JSON::NestingError, SystemStackError => error
        warn "A request nobody can read: #{error.class}"
        self.class.unreadable
      rescue => error # rubocop:disable Style/RescueStandardError -- the last to be asked
        warn "#{error.class}: #{error.message}\n#{error.backtrace&.first(12)&.join("\n")}"
        Problem.response(500, **OUR_FAULT)
      end
    end
  end
end
