# frozen_string_literal: true

require "json"

module NimbleLetter
  module Web
    # How every error reads: what was wrong, where, and what to do.
    module Problem
      # @return [Array] a Rack answer
      def self.response(status, **error)
        [status, {"content-type" => "application/json"}, [body(**error)]]
      end

      # @return [String]
      def self.body(code:, message:, at: nil, hint: nil, data: {}) =
        JSON.generate(error: {code: code, message: message, at: at, hint: hint, data: data})
    end
  end
end
