# frozen_string_literal: true

require "bigdecimal"
require "date"
require "json"

module NimbleLetter
  module Core
    module Conditions
      # Turns the JSON of a condition into a tree of nodes, or says what is wrong and where.
      class Parser
        MAX_DEPTH = 10 # deeper than anybody can read aloud; also bounds the SQL
        MAX_TESTS = 100
        MAX_PARTS = 500 # tests and what joins them; branches can be empty
        MAX_VALUES = 500
        MAX_BYTES = 100_000 # of its JSON, which is kept as it came
        SHOWN_LETTERS = 60
        MAX_NUMBER = 10**14 # what DECIMAL(20,4) holds, with room to spare
        DEAL = "deal"
        DATE_LETTERS = 10 # of 2026-05-12; a time behind it says nothing here

        # @param catalogue [Fields::Catalogue]
        # @param uses [Array<Symbol>] fields that are for any of these may be asked about; passages of a letter know more
        def initialize(catalogue = Fields::Standard.catalogue, uses: %i[condition])
          @catalogue, @uses = catalogue, uses
        end

        # @param json [Hash, nil] nil or {} means everybody
        # @return [Object] a node
        # @raise [Invalid] with the path of the wrong part in `at`
        def parse!(json)
          @tests = @parts = 0
          return Nodes::All.new(parts: []) if json.nil? || json == {}

          node(json, "condition", 1, "person").tap do
            wrong("This condition is longer than #{MAX_BYTES / 1000} kB", "condition") if JSON.generate(json).bytesize > MAX_BYTES
          end
        rescue JSON::GeneratorError
          wrong("A condition is written in UTF-8", "condition")
        end

        # @return [Object, nil] nil when it cannot be read
        def parse(json)
          parse!(json)
        rescue Invalid
          nil
        end

        private

        # @param subject [String] whose fields may be asked about: "person" (with company), or "deal" within a test on deals
        def node(json, at, depth, subject)
          wrong("A condition is an object", at) unless json.is_a?(Hash)
          wrong("A condition may be nested #{MAX_DEPTH} levels deep", at) if depth > MAX_DEPTH
          wrong("A condition may have #{MAX_PARTS} parts", at) if (@parts += 1) > MAX_PARTS
          json = json.transform_keys(&:to_s)
          if json.key?("all") then branch(Nodes::All, json["all"], "#{at}.all", depth, subject)
          elsif json.key?("any") then branch(Nodes::Any, json["any"], "#{at}.any", depth, subject)
          elsif json.key?("not") then Nodes::Not.new(part: node(json["not"], "#{at}.not", depth + 1, subject))
          elsif json.key?("field") then counted(at) { field_test(json, at, subject) }
          elsif subject == DEAL then wrong("Of a deal one can ask its fields, joined by all, any and not", at)
          elsif json.key?("activity") then counted(at) { activity_test(json, at) }
          elsif json.key?("membership") then counted(at) { membership_test(json, at) }
          elsif json.key?("deals") then deals_test(json, at, depth)
          else
            wrong("A condition needs one of all, any, not, field, activity, membership, deals", at)
          end
        end

        def branch(kind, parts, at, depth, subject)
          wrong("This needs a list of conditions", at) unless parts.is_a?(Array)
          kind.new(parts: parts.each_with_index.map { |part, i| node(part, "#{at}[#{i}]", depth + 1, subject) })
        end

        def counted(at)
          @tests += 1
          wrong("A condition may hold #{MAX_TESTS} tests", at) if @tests > MAX_TESTS
          yield
        end

        def field_test(json, at, subject)
          field = @catalogue[json["field"]]
          unless field && @uses.any? { |use| field.for?(use) }
            raise Invalid.new(
              "There is no field #{shown(json["field"])} to ask about",
              code: :unknown_field,
              at: "#{at}.field",
              hint: "Choose one of the fields listed under /api/catalogue"
            )
          end
          if (field.subject == DEAL) != (subject == DEAL)
            wrong(
              (subject == DEAL) ? "#{field.label} is not known of a deal" : "#{field.label} is asked about within deals",
              "#{at}.field"
            )
          end
          needs = Operators.for(field.type).fetch(json["is"]) do
            wrong(
              "#{field.label} cannot be asked with #{shown(json["is"])}; it knows #{Operators.for(field.type).keys.join(", ")}",
              "#{at}.is"
            )
          end
          Nodes::FieldTest.new(field: field, is: json["is"], value: value(needs, json["value"], field, "#{at}.value"))
        end

        def value(needs, given, field, at)
          case needs
          when :none then nil
          when :list then list(given, field, at)
          when :text then text(given, field, at)
          when :number then number(given, at)
          when :numbers then pair(given, at) { |one, place| number(one, place) }
          when :span then span(given, at)
          when :days then whole(given, at, 1..366)
          when :months then months(given, at)
          when :date then date(given, at)
          when :dates then pair(given, at) { |one, place| date(one, place) }
          end
        end

        def list(given, field, at)
          wrong("Choose at least one #{field.label.downcase}", at) unless given.is_a?(Array) && given.any?
          wrong("At most #{MAX_VALUES} values", at) if given.size > MAX_VALUES
          given.each_with_index.map { |one, i| text(one, field, "#{at}[#{i}]") }.uniq
        end

        def pair(given, at)
          wrong("This needs two values, the lower first", at) unless given.is_a?(Array) && given.size == 2
          low, high = given.each_with_index.map { |one, i| yield(one, "#{at}[#{i}]") }
          wrong("The first of the two comes after the second", at) if low > high
          [low, high]
        end

        def number(given, at)
          wrong("This needs a number", at) unless given.is_a?(Numeric) && given.abs <= MAX_NUMBER
          given.is_a?(Integer) ? given : BigDecimal(given.to_s)
        end

        def span(given, at)
          given = given.is_a?(Hash) ? given.transform_keys(&:to_s) : {}
          unit = given["unit"]
          wrong("This needs an amount and a unit, one of #{Span::UNITS.join(", ")}", at) unless Span::UNITS.include?(unit)
          Span.new(whole(given["amount"], "#{at}.amount", 1..Span::MOST.fetch(unit)), unit)
        end

        def months(given, at)
          unless given.is_a?(Array) && given.any? && given.all? { |month| month.is_a?(Integer) && month.between?(1, 12) }
            wrong("This needs months from 1 to 12", at)
          end
          given.uniq.sort
        end

        def text(given, field, at)
          return reference(given, at) if field.type == :reference
          return whole(given, at, 1..2**53) if field.type == :lists

          wrong("A word is missing here", at) unless given.is_a?(String) && (field.folded? ? field.fold(given) : Fold.call(given))
          wrong("This is longer than 200 letters", at) if given.length > 200
          if %i[choice choices].include?(field.type) && !field.choices.key?(given)
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
          unless Operators::ACTIVITIES.key?(kind)
            wrong("There is no activity #{shown(kind)}; there are #{Operators::ACTIVITIES.keys.join(", ")}", "#{at}.activity")
          end
          Nodes::ActivityTest.new(
            kind: kind,
            within: json["within"] && span(json["within"], "#{at}.within"),
            at_least: whole(json.fetch("at_least", 1), "#{at}.at_least", 1..1000),
            letter_id: number_of(json, "letter_id", at),
            sequence_id: number_of(json, "sequence_id", at),
            link: link(json["link"], "#{at}.link")
          )
        end

        def link(given, at)
          return if given.nil?

          wrong("This needs the address a link leads to", at) unless given.is_a?(String) && given.length.between?(1, 2000)
          given
        end

        def membership_test(json, at)
          kind = json["membership"]
          unless Operators::MEMBERSHIPS.key?(kind)
            wrong("A membership is one of #{Operators::MEMBERSHIPS.keys.join(", ")}", "#{at}.membership")
          end
          statuses = json.fetch("status", []) || []
          unless statuses.is_a?(Array) && statuses.all?(String) && statuses.size <= MAX_VALUES
            wrong("This needs a list of statuses", "#{at}.status")
          end
          Nodes::MembershipTest.new(
            kind: kind,
            sequence_id: number_of(json, "sequence_id", at),
            statuses: statuses.uniq,
            step: json["step"] && whole(json["step"], "#{at}.step", 1..500),
            step_id: number_of(json, "step_id", at),
            lane_id: number_of(json, "lane_id", at)
          )
        end

        def deals_test(json, at, depth)
          where =
            (json["deals"].nil? || json["deals"] == {}) ? Nodes::All.new(parts: []) : node(json["deals"], "#{at}.deals", depth + 1, DEAL)
          Nodes::DealsTest.new(where: where, at_least: whole(json.fetch("at_least", 1), "#{at}.at_least", 1..1000))
        end

        def number_of(json, name, at) = json[name] && whole(json[name], "#{at}.#{name}", 1..2**53)

        def whole(given, at, range)
          wrong("This needs a whole number from #{range.first} to #{range.last}", at) unless given.is_a?(Integer) && range.cover?(given)
          given
        end

        def date(given, at)
          Date.iso8601(given.to_s[0, DATE_LETTERS])
        rescue Date::Error
          wrong("This needs a date like 2026-05-12", at)
        end

        # What was sent may be of any length.
        def shown(value) = value.to_s[0, SHOWN_LETTERS].inspect

        def wrong(message, at) = raise(Invalid.new("#{message}.", code: :condition_unclear, at: at))
      end
    end
  end
end
