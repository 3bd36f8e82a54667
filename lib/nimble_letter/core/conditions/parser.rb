# frozen_string_literal: true

require "date"

module NimbleLetter
  module Core
    module Conditions
      # Turns the JSON of a condition into a tree of nodes, or says what is wrong and where.
      class Parser
        MAX_DEPTH = 10 # deeper than anybody can read aloud; also bounds the SQL
        MAX_TESTS = 100
        MAX_DAYS = 36_500

        # @param catalogue [Fields::Catalogue]
        def initialize(catalogue = Fields::Standard.catalogue)
          @catalogue = catalogue
        end

        # @param json [Hash, nil] nil or {} means everybody
        # @return [Object] a node
        # @raise [Invalid] with the path of the wrong part in `at`
        def parse!(json)
          @tests = 0
          return Nodes::All.new(parts: []) if json.nil? || json == {}

          node(json, "condition", 1)
        end

        # @return [Object, nil] nil when it cannot be read
        def parse(json)
          parse!(json)
        rescue Invalid
          nil
        end

        private

        def node(json, at, depth)
          wrong("A condition is an object", at) unless json.is_a?(Hash)
          wrong("A condition may be nested #{MAX_DEPTH} levels deep", at) if depth > MAX_DEPTH
          json = json.transform_keys(&:to_s)
          if json.key?("all") then branch(Nodes::All, json["all"], "#{at}.all", depth)
          elsif json.key?("any") then branch(Nodes::Any, json["any"], "#{at}.any", depth)
          elsif json.key?("not") then Nodes::Not.new(part: node(json["not"], "#{at}.not", depth + 1))
          elsif json.key?("field") then counted(at) { field_test(json, at) }
          elsif json.key?("activity") then counted(at) { activity_test(json, at) }
          else
            wrong("A condition needs one of all, any, not, field, activity", at)
          end
        end

        def branch(kind, parts, at, depth)
          wrong("This needs a list of conditions", at) unless parts.is_a?(Array)
          kind.new(parts: parts.each_with_index.map { |part, i| node(part, "#{at}[#{i}]", depth + 1) })
        end

        def counted(at)
          @tests += 1
          wrong("A condition may hold #{MAX_TESTS} tests", at) if @tests > MAX_TESTS
          yield
        end

        def field_test(json, at)
          field = @catalogue[json["field"]]
          unless field&.for?(:condition)
            raise Invalid.new("There is no field #{json["field"].inspect} to ask about", code: :unknown_field, at: "#{at}.field",
              hint: "Choose one of the fields listed under /api/fields")
          end
          needs = Operators.for(field.type).fetch(json["is"]) do
            wrong("#{field.label} cannot be asked with #{json["is"].inspect}; it knows #{Operators.for(field.type).keys.join(", ")}", "#{at}.is")
          end
          Nodes::FieldTest.new(field: field, is: json["is"], value: value(needs, json["value"], field, "#{at}.value"))
        end

        def value(needs, given, field, at)
          case needs
          when :none then nil
          when :list then list(given, field, at)
          when :text then text(given, field, at)
          when :days then whole(given, at, 1..MAX_DAYS)
          when :date then date(given, at)
          end
        end

        def list(given, field, at)
          wrong("Choose at least one #{field.label.downcase}", at) unless given.is_a?(Array) && given.any?
          wrong("At most 500 values", at) if given.size > 500
          given.each_with_index.map { |one, i| text(one, field, "#{at}[#{i}]") }.uniq
        end

        def text(given, field, at)
          return reference(given, at) if field.type == :reference

          wrong("A word is missing here", at) unless given.is_a?(String) && Fold.call(given)
          wrong("This is longer than 200 letters", at) if given.length > 200
          if field.type == :choice && !field.choices.key?(given)
            wrong("#{field.label} is never #{given.inspect}; it is one of #{field.choices.keys.join(", ")}", at)
          end
          given
        end

        # "me" is whoever asks; everybody else goes by number.
        def reference(given, at)
          return given if given == "me" || (given.is_a?(Integer) && given.positive?)

          wrong("This needs the number of a colleague, or \"me\"", at)
        end

        def activity_test(json, at)
          kind = json["activity"]
          wrong("There is no activity #{kind.inspect}; there are #{Operators::ACTIVITIES.keys.join(", ")}", "#{at}.activity") unless Operators::ACTIVITIES.key?(kind)
          Nodes::ActivityTest.new(kind: kind,
            within_days: json["within_days"] && whole(json["within_days"], "#{at}.within_days", 1..MAX_DAYS),
            at_least: whole(json.fetch("at_least", 1), "#{at}.at_least", 1..1000),
            letter_id: json["letter_id"] && whole(json["letter_id"], "#{at}.letter_id", 1..2**53),
            sequence_id: json["sequence_id"] && whole(json["sequence_id"], "#{at}.sequence_id", 1..2**53))
        end

        def whole(given, at, range)
          wrong("This needs a whole number from #{range.first} to #{range.last}", at) unless given.is_a?(Integer) && range.cover?(given)
          given
        end

        def date(given, at)
          Date.iso8601(given.to_s)
        rescue Date::Error
          wrong("This needs a date like 2026-05-12", at)
        end

        def wrong(message, at) = raise(Invalid.new("#{message}.", code: :condition_unclear, at: at))
      end
    end
  end
end
