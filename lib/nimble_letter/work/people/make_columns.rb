# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes the columns of fields that the firm has asked for: what the clerk does with the database's other user, since the
    # page's own may not change the shape of the records. Done twice, or ended half-way and begun again, it comes to the same.
    class MakeColumns
      # What the values of each type are kept in. Texts are outside of the row, since a row has little room.
      COLUMNS = {
        text: [:text],
        long_text: [:text],
        link: [:text],
        choice: [String, {size: 60}],
        choices: [:text],
        number: [BigDecimal, {size: [20, 4]}],
        money: [:Bignum],
        date: [Date],
        flag: [TrueClass]
      }.freeze
      TURN = "make_columns"
      INDEXED = %i[choice number money date].freeze

      # @param owner [Records::Owner]
      def initialize(owner)
        @owner = owner
      end

      # One clerk at a time: the shape of a table is not changed by two at once.
      # @param field [Records::CustomField]
      # @return [Boolean] false when another one is at it
      def call(field)
        Records::TakingTurns.with(TURN) do
          unless field.refresh.made
            @owner.open { |db| add(db, field.table, field.column, field.type.to_sym) }
            field.update(made: true)
          end
          true
        end || false
      end

      # The column, and its folded twin where the type is compared folded.
      # @param db [Sequel::Database] as its owner
      def add(db, table, column, type)
        there = db.schema(table, reload: true).map(&:first)
        indexes = db.indexes(table).keys
        kind, options = COLUMNS.fetch(type)
        folded = Core::Fields::Field::FOLDED.include?(type)
        index = :"#{table}_by_#{column}"
        db.add_column(table, column, kind, **(options || {})) unless there.include?(column)
        twin = :"#{column}_fold"
        db.add_column(table, twin, :text, collate: "utf8mb4_nopad_bin") if folded && !there.include?(twin)
        return if table != :people || indexes.include?(index)

        db.add_index(table, [:deleted_at, column, :id], name: index) if INDEXED.include?(type)
        # The first letters are enough to put texts in order quickly.
        db.run("CREATE INDEX #{index} ON people (deleted_at, #{twin}(100), id)") if folded && type != :long_text
      end
    end
  end
end
