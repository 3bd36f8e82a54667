# frozen_string_literal: true

require "json"
require "time"

module NimbleLetter
  module Web
    # Values as the contract has them: instants in ISO 8601 with a Z, dates as dates.
    module Render
      # @return [String]
      def self.json(object) = JSON.generate(plain(object))

      def self.plain(object)
        case object
        when Hash then object.transform_values { |value| plain(value) }
        when Array then object.map { |value| plain(value) }
        when Time then object.getutc.iso8601(3)
        when Date then object.iso8601
        else object
        end
      end
    end
  end
end
