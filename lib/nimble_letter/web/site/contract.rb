# frozen_string_literal: true

require "committee"

module NimbleLetter
  module Web
    # The contract of the API, read once.
    module Contract
      PATH = File.join(ROOT, "openapi.yaml")

      # @return [Committee::Drivers::OpenAPI3::Schema]
      def self.schema = @schema ||= Committee::Drivers.load_from_file(PATH, parser_options: {strict_reference_validation: true})
    end
  end
end
