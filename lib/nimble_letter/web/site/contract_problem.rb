# frozen_string_literal: true

require "committee"

module NimbleLetter
  module Web
    # A request that does not keep to openapi.yaml, told like every other error.
    class ContractProblem < Committee::ValidationError
      def render
        at = message[%r{#/(?:paths|components)\S*/properties/(\w+)}, 1]
        Problem.response(
          status,
          code: id.to_s,
          message: message.sub(%r{#/\S+\s*}, "").strip,
          at: at,
          hint: "See openapi.yaml for what this call takes."
        )
      end
    end
  end
end
