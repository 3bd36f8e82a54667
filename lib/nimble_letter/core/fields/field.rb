# frozen_string_literal: true

module NimbleLetter
  module Core
    module Fields
      # One thing that can be known about a record. Conditions, merge fields and table columns all read it.
      class Field
        TYPES = %i[text choice date flag tags reference money].freeze

        attr_reader :key, :label, :type, :table, :column, :choices, :phrase, :uses

        # @param key [String] "person.first_name": whose it is, then its name
        # @param label [String] as a person reads it
        # @param type [Symbol] one of TYPES
        # @param table [Symbol] where a stored value lives; nil when it is worked out (today, sender)
        # @param column [Symbol] the column there
        # @param choices [Hash{String=>String}] stored value to words, for a choice
        # @param phrase [String] how a condition sentence begins: "whose city is"
        # @param uses [Array<Symbol>] any of :condition, :merge, :column
        def initialize(key:, label:, type:, uses:, table: nil, column: nil, choices: {}, phrase: nil)
          raise ArgumentError, "unknown field type #{type.inspect}" unless TYPES.include?(type)

          @key, @label, @type, @uses = key, label, type, uses.freeze
          @table, @column = table, column
          @choices = choices.freeze
          @phrase = phrase || "whose #{label.downcase} is"
          freeze
        end

        def for?(use) = uses.include?(use)

        # @return [String] whose field it is: "person", "company", …
        def subject = key.split(".", 2).first

        def name = key.split(".", 2).last

        # Text is compared folded, see Fold.
        def folded? = type == :text

        # @return [Hash] what the API tells of it
        def to_h
          {key: key, label: label, type: type.to_s, phrase: phrase, uses: uses.map(&:to_s),
           choices: choices.map { |value, words| {value: value, words: words} }}
        end
      end
    end
  end
end
