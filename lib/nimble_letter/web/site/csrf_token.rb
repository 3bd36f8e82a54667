# frozen_string_literal: true

require "rack/protection"

module NimbleLetter
  module Web
    # A change is taken only from our own page, which has the token of its session.
    class CsrfToken < Rack::Protection::AuthenticityToken
      def deny(_env)
        Problem.response(403, code: "out_of_date", message: "This page is out of date.", hint: "Load the page again.")
      end
      alias_method :default_reaction, :deny
    end
  end
end
