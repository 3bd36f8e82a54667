# frozen_string_literal: true

require "committee"

module NimbleLetter
  module Web
    # The contract of the API. It is written in contract/, one file a place, and joined into openapi.yaml for everybody who
    # reads it whole: the checks at run time, the types of the screens, other programs. See decision 20.
    module Contract
      PATH = File.join(ROOT, "openapi.yaml")
      PARTS = File.join(ROOT, "contract")
      HEAD = "head.yaml"
      NOTE = "# Joined from contract/ by `bin/nimble contract`; change it there.\n"
      SECTION = /^(\w+):\n/

      # @return [Committee::Drivers::OpenAPI3::Schema] read once
      def self.schema = @schema ||= Committee::Drivers.load_from_file(PATH, parser_options: {strict_reference_validation: true})

      # As text, so that what somebody wrote by hand is read as they wrote it.
      # @return [String] all parts as one document
      def self.joined
        head, parameters = File.read(File.join(PARTS, HEAD)).split("parameters:\n", 2)
        parts = Dir[File.join(PARTS, "*.yaml")].reject { |path| File.basename(path) == HEAD }.sort.map { |path| sections(path) }
        paths, schemas = %w[paths schemas].map { |name| parts.map { |part| part.fetch(name, "") }.join }
        "#{NOTE}#{head}paths:\n#{paths}components:\n  parameters:\n#{deeper(parameters)}  schemas:\n#{deeper(schemas)}"
      end

      # Writes openapi.yaml anew.
      def self.join = File.write(PATH, joined)

      # @return [Hash{String=>String}] text by section
      def self.sections(path) = Hash[*File.read(path).split(SECTION).drop(1)]
      private_class_method :sections

      def self.deeper(text) = text.gsub(/^(?=.)/, "  ")
      private_class_method :deeper
    end
  end
end
