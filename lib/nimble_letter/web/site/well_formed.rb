# frozen_string_literal: true

require "rack/utils"

module NimbleLetter
  module Web
    # An address that is no text is nobody's: it is refused before anything reads it.
    class WellFormed
      CONTROL = /[\x00-\x08\x0a-\x1f\x7f]/
      BROKEN_ESCAPE = /%(?!\h\h)/

      def initialize(app) = @app = app

      def call(env)
        return @app.call(env) if text?(env["PATH_INFO"]) && text?(env["QUERY_STRING"])

        Problem.response(400, code: "no_text", message: "This address is not written in UTF-8.")
      end

      private

      def text?(escaped)
        return true if escaped.to_s.empty?
        return false if escaped.match?(BROKEN_ESCAPE)

        plain = Rack::Utils.unescape_path(escaped).force_encoding(Encoding::UTF_8)
        plain.valid_encoding? && !plain.match?(CONTROL)
      rescue ArgumentError # what is no text cannot be matched either
        false
      end
    end
  end
end
