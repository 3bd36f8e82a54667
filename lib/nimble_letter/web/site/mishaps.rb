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

      # @param env [Hash]
      # @return [Hash] with the name under which the log tells of the request, if it has one
      def self.our_fault(env) =
        env[RequestId::NAME] ? OUR_FAULT.merge(message: "#{OUR_FAULT[:message]} It is noted as #{env[RequestId::NAME]}.") : OUR_FAULT

      def initialize(app) = @app = app

      def call(env)
        @app.call(env)
      rescue Rack::BadRequest, EncodingError, JSON::NestingError, SystemStackError => error
        Log.info("a request nobody can read", error: error.class.name)
        self.class.unreadable
      rescue => error # rubocop:disable Style/RescueStandardError -- the last to be asked
        Log.error("a request failed", error)
        Problem.response(500, **self.class.our_fault(env))
      end
    end
  end
end
