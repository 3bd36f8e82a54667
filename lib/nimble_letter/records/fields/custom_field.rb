# frozen_string_literal: true

module NimbleLetter
  module Records
    # A field the firm made. Its values live in a column of their own beside the fields every firm has, so that
    # conditions, sorting and imports treat it as one of them (docs/decisions/0009).
    class CustomField < Sequel::Model(:custom_fields)
      extend JsonColumn
      include Versioned

      json_column :choices

      TABLES = {"person" => :people, "company" => :companies}.freeze
      TYPES = %w[text long_text number money date flag choice choices link].freeze
      MOST = 60 # beyond it a row no longer fits the page of the database

      # @return [Symbol] e.g. :x_shoe_size
      def column = :"x_#{name}"

      def table = TABLES.fetch(subject)

      # @return [Core::Fields::Field]
      def to_field
        uses = %i[condition merge column import]
        Core::Fields::Field.new(
          key: "#{subject}.#{column}",
          label: label,
          type: type.to_sym,
          table: table,
          column: column,
          choices: choices || {},
          uses: uses,
          phrase: phrase,
          noun: noun,
          custom_id: id,
          retired: retired,
          sorted: subject == "person"
        )
      end

      private

      def noun = (subject == "company") ? "company’s “#{label}”" : "“#{label}”"

      def phrase = (type == "flag") ? "#{"whose company " if subject == "company"}is marked “#{label}”" : "whose #{noun} is"
    end
  end
end
