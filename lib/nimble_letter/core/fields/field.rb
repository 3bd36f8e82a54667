# frozen_string_literal: true

module NimbleLetter
  module Core
    module Fields
      # One thing that can be known about a record. Conditions, merge fields, imports, columns and exports all read it.
      class Field
        # What a field of each type holds in memory: text, long_text, link, choice: String; choices, tags: Array<String>;
        # number: BigDecimal or Integer; money: Integer, pence; date: Date; flag: true or false; reference, lists: Integer ids.
        TYPES = %i[text long_text link number money date flag choice choices tags lists reference].freeze
        FOLDED = %i[text long_text link].freeze
        # One value that has an order.
        SORTED = %i[text link number money date flag choice reference].freeze

        attr_reader :key, :label, :type, :table, :column, :choices, :phrase, :noun, :uses, :custom_id, :form, :comes_from

        # @param key [String] "person.first_name": whose it is, then its name
        # @param label [String] as a person reads it
        # @param type [Symbol] one of TYPES
        # @param table [Symbol] where a stored value lives; nil when it is worked out (today, sender)
        # @param column [Symbol] the column there
        # @param choices [Hash{String=>String}] stored value to words, for a choice
        # @param phrase [String] how a condition sentence begins: "whose city is"
        # @param noun [String] what one calls it there: "city", "company’s website"
        # @param uses [Array<Symbol>] any of :condition, :merge, :column, :import, :passage (a condition, but only within letters)
        # @param custom_id [Integer, nil] of a field that the firm made
        # @param comes_from [String, nil] key of the stored field that a worked-out one is empty without
        # @param form [String, nil] how a letter says it unless told otherwise, see Letters::Forms
        # @param sorted [Boolean] whether people can be put in order by it, if its type has an order
        # @param retired [Boolean] still read where it is used, offered nowhere
        def initialize(
          key:,
          label:,
          type:,
          uses:,
          table: nil,
          column: nil,
          choices: {},
          phrase: nil,
          noun: nil,
          custom_id: nil,
          form: nil,
          comes_from: nil,
          retired: false,
          sorted: true
        )
          raise ArgumentError, "unknown field type #{type.inspect}" unless TYPES.include?(type)

          @key, @label, @type, @uses = key, label, type, uses.freeze
          @table, @column = table, column
          @choices = choices.freeze
          # A name that somebody gave stands in quotation marks: "whose “Seats” is more than 5".
          @noun = noun || (custom_id ? "“#{label}”" : self.class.within_sentence(label))
          @phrase = phrase || "whose #{@noun} is"
          @custom_id, @form, @comes_from, @retired, @sorted = custom_id, form, comes_from, retired, sorted
          freeze
        end

        # A label in the middle of a sentence: "Shoe size" as "shoe size", but "VAT number" as it is.
        def self.within_sentence(label) = label.match?(/\A[A-Z][a-z]/) ? label[0].downcase + label[1..] : label

        def for?(use) = uses.include?(use)

        # @return [String] whose field it is: "person", "company", …
        def subject = key.split(".", 2).first

        def name = key.split(".", 2).last

        # Text is compared folded, see Fold.
        def folded? = FOLDED.include?(type)

        # Compared by their digits alone, however they are written.
        PHONES = %w[person.phone person.mobile company.phone].freeze

        # @param value [String, nil]
        # @return [String, nil] as it is compared
        def fold(value) = PHONES.include?(key) ? Phone.fold(value) : Fold.call(value)

        # @return [Symbol] the column that is compared and sorted by
        def compared_column = folded? ? :"#{column}_fold" : column

        def sorted? = @sorted && !column.nil? && SORTED.include?(type)

        def retired? = @retired

        # A noun in quotation marks is a name, and is not declined.
        def quoted? = noun.include?("“")

        def custom? = !custom_id.nil?

        # @return [Hash] what the API tells of it
        def to_h
          {
            key: key,
            label: label,
            type: type.to_s,
            phrases: Conditions::Phrases.all(self),
            uses: uses.map(&:to_s),
            subject: subject,
            sorted: sorted?,
            custom_id: custom_id,
            retired: retired?,
            forms: Letters::Forms.for(self).map { |one| {form: one, words: Letters::Forms::LABELS.fetch(one)} },
            choices: choices.map { |value, words| {value: value, words: words} }
          }
        end
      end
    end
  end
end
