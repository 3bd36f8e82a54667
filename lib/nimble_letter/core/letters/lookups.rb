# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Facts that outside services know, by a field of the person. Each service is asked once for each value of that field.
      module Lookups
        # by: the field whose value is asked about; answers: field key => name of the fact in the service's answer
        Service = Struct.new(:name, :label, :by, :answers)

        WEATHER = Service.new(
          "weather",
          "the weather service",
          "person.city",
          {"lookup.weather" => "words", "lookup.temperature" => "celsius", "lookup.rain" => "rain"}
        ).freeze
        ALL = [WEATHER].freeze

        # @param documents [Array<Document>]
        # @return [Array<Service>] those that a letter needs, for its merge fields or for what its passages ask
        def self.needed(documents)
          named =
            documents.flat_map { |document| document.merge_fields.map { |node| node["attrs"]["field"] } + fields_in(document.conditions) }
          ALL.select { |service| (service.answers.keys & named).any? }
        end

        # @return [Array<String>] field keys named anywhere in the JSON of conditions
        def self.fields_in(json)
          case json
          when Hash then [json["field"], *json.values.flat_map { |value| fields_in(value) }].compact
          when Array then json.flat_map { |value| fields_in(value) }
          else []
          end
        end
      end
    end
  end
end
