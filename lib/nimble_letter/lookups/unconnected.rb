# frozen_string_literal: true

module NimbleLetter
  module Lookups
    # Where no service is connected: every question has the same, stated result.
    module Unconnected
      # @return [Answer]
      def self.ask(service, _value, _day) = Answer.failed("#{service.label} is not connected")
    end
  end
end
