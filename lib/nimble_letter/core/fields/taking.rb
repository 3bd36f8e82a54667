# frozen_string_literal: true

require "bigdecimal"
require "date"

module NimbleLetter
  module Core
    module Fields
      # Takes in a value for a field, typed or from a file, as the record holds it. One rule for forms, imports and
      # changes of many records.
      class Taking
        # A value that is none of a field's choices; the message names the nearest.
        NotAChoice = Class.new(Invalid)

        LIMITS =
          Hash
            .new(120)
            .merge(
              "person.email" => 190,
              "person.phone" => 40,
              "person.mobile" => 40,
              "person.title" => 60,
              "person.time_zone" => 60,
              "person.consent_how" => 200,
              "company.name" => 200,
              "company.website" => 300,
              "company.phone" => 40,
              "deal.name" => 200
            )
            .freeze
        CUSTOM_TEXT = 200
        LONG_TEXT = 10_000
        LINK = 300
        YES = %w[yes y true t 1 x on ja oui si].freeze
        NO = %w[no n false f 0 off nein non].freeze
        MOST_PENCE = 10**14

        # @param habit [Habit] how dates and numbers are written
        # @param reference [#call] (text or id) to id or nil, for colleagues
        def initialize(habit: Habit.plain, reference: ->(_given) {})
          @habit, @reference = habit, reference
        end

        # @param field [Field]
        # @param given [Object] String, Numeric, Date, true, false, Array or nil
        # @return [Object, nil] as the record holds it; nil for nothing
        # @raise [Invalid] with the field's key in `at`
        def take(field, given)
          given = Letters::Values.clean(given) if given.is_a?(String) && field.type != :long_text
          return if given.nil? || given == "" || given == []

          case field.type
          when :text then text(field, given, field.custom? ? CUSTOM_TEXT : LIMITS[field.key])
          when :long_text then long_text(field, given)
          when :link then link(field, given)
          when :choice then choice(field, given)
          when :choices then (given.is_a?(Array) ? given : given.to_s.split(/[,;|]/)).map { |one| choice(field, one.strip) }.uniq
          when :flag then flag(field, given)
          when :number then number(field, given)
          when :money then money(field, given)
          when :date then date(field, given)
          when :reference then @reference.call(given) || wrong(field, "There is no colleague “#{short(given)}”")
          else wrong(field, "#{field.label} cannot be set like this")
          end
        end

        private

        def text(field, given, limit)
          words = given.to_s
          wrong(field, "#{field.label} may have #{limit} letters; this has #{words.length}") if words.length > limit
          words
        end

        def long_text(field, given)
          words = given.to_s.scrub("").delete("\0").gsub(/\r\n?/, "\n").strip
          text(field, words, LONG_TEXT)
          words.empty? ? nil : words
        end

        def link(field, given)
          words = text(field, given, LINK)
          words = "https://#{words}" if words.match?(/\A[\w-]+(\.[\w-]+)+(\/\S*)?\z/)
          unless words.match?(%r{\Ahttps?://[^\s<>"]+\z}i)
            wrong(field, "“#{short(given)}” is not the address of a page; one begins with https://")
          end
          words
        end

        def choice(field, given)
          return given if field.choices.key?(given)

          fold = Fold.call(given.to_s)
          found = field.choices.find { |key, words| Fold.call(words) == fold || Fold.call(key) == fold }
          return found.first if found

          words = field.choices.values
          short = given.to_s.length <= Catalogue::LONGEST_NAME
          near = short ? DidYouMean::SpellChecker.new(dictionary: words).correct(given.to_s).first : nil
          said = near ? "did you mean “#{near}”?" : "it is one of #{words.first(12).join(", ")}."
          raise NotAChoice.new("#{field.label} is not “#{short(given)}”; #{said}", code: :value_unclear, at: field.key)
        end

        def flag(field, given)
          return given if [true, false].include?(given)

          word = Fold.call(given.to_s)
          return true if YES.include?(word)
          return false if NO.include?(word)

          wrong(field, "#{field.label} is yes or no; not “#{short(given)}”")
        end

        def number(field, given)
          value = given.is_a?(Numeric) ? BigDecimal(given.to_s) : @habit.number(given.to_s)
          wrong(field, "“#{short(given)}” is not a number") if value.nil? || value.abs > MOST_PENCE
          value.round(4)
        end

        # Money typed or in a file is in pounds, also as the number of a workbook; records hold pence. A whole number sent by a
        # screen is pence already.
        def money(field, given)
          return given if given.is_a?(Integer) && given.between?(0, MOST_PENCE)

          value = given.is_a?(Numeric) ? BigDecimal(given.to_s) : @habit.number(given.to_s)
          wrong(field, "“#{short(given)}” is not an amount of money") if value.nil? || value.negative? || value > MOST_PENCE
          (value * 100).round.to_i
        end

        def date(field, given)
          return given if given.is_a?(Date)

          @habit.date(given.to_s) || wrong(field, "“#{short(given)}” is not a date that can be told for certain")
        end

        def short(given) = given.to_s[0, 60]

        def wrong(field, message) = raise(Invalid.new("#{message}.", code: :value_unclear, at: field.key))
      end
    end
  end
end
