# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # Reads the cells of one row as values of fields, or says why the row cannot be taken in.
      class RowReading
        # values: by field key, as records hold them, without the empty ones; problem: nil, or why it is refused
        Row = Struct.new(:values, :problem)

        COMPANY = ColumnMatching::COMPANY
        COMPANY_FIELD = Fields::Field.new(key: COMPANY, label: "Company", type: :text, uses: [])
        NAMES = ["person.first_name", "person.last_name", "person.known_as", "person.email", COMPANY].freeze
        SPLIT = /[,;|]/
        MOST_IN_A_CELL = 100

        # @param matching [Array<String, nil>] field key of each column
        # @param catalogue [Fields::Catalogue]
        # @param taking [Fields::Taking]
        # @param owners [Hash{String=>Integer,nil}] what was said of names no colleague has
        def initialize(matching, catalogue:, taking:, owners: {})
          @columns = matching.each_with_index.filter_map { |key, i| key && [i, (key == COMPANY) ? COMPANY_FIELD : catalogue[key]] }
          @taking, @owners = taking, owners
          @known = Hash.new { |all, field| all[field] = {} }
          @unknown_owners = []
        end

        MOST_UNKNOWN = 50

        # @return [Array<String>] names in the rows read so far that no colleague has
        attr_reader :unknown_owners

        # @param cells [Array]
        # @return [Row]
        def read(cells)
          values = {}
          @columns.each do |i, field|
            value = value(field, cells[i])
            values[field.key] = value unless value.nil?
          end
          Row.new(values, problem(values))
        rescue Invalid => error
          Row.new(values, error.message)
        end

        private

        MOST_KEPT = 2000 # different values of a column; a column of addresses has none twice

        # Few values stand in many rows; reading "York" a hundred thousand times is reading it once.
        def value(field, cell)
          return if cell.nil?

          kept = @known[field.key]
          kept.fetch(cell) do
            value = read_cell(field, cell)
            kept[cell] = value if kept.size < MOST_KEPT
            value
          end
        end

        def read_cell(field, cell)
          if cell.is_a?(String) && cell.include?("\0")
            raise Invalid.new("There is a NUL byte in #{field.label.downcase}; the file may be damaged.")
          end

          case field.type
          when :reference then owner(field, cell)
          when :tags, :lists then words(cell)
          else if field.key == "person.email"
                 address(field, cell)
               else
                 @taking.take(field, (cell.is_a?(Numeric) && field.folded?) ? cell.to_s : cell)
               end
          end
        end

        def owner(field, cell)
          fold = Fold.call(cell.to_s) or return
          return @owners[fold] if @owners.key?(fold)

          begin
            @taking.take(field, cell.to_s)
          rescue Invalid
            @unknown_owners |= [cell.to_s.strip[0, 80]] if @unknown_owners.size < MOST_UNKNOWN
            raise
          end
        end

        def words(cell) =
          cell
            .to_s
            .split(SPLIT)
            .map { |word| Letters::Values.clean(word) }
            .compact
            .map { |word| word[0, 80] }
            .uniq
            .then { |all| all.empty? ? nil : bounded(all) }

        def bounded(all)
          raise Invalid.new("There are #{all.size} in one cell; that is more than a person has.") if all.size > MOST_IN_A_CELL

          all
        end

        def address(field, cell)
          raise Invalid.new("There is a line break in the address.") if cell.to_s.strip.match?(/[\r\n]/)

          text = @taking.take(field, cell.to_s.strip.sub(/\Amailto:/i, ""))
          raise Invalid.new("“#{text[0, 80]}” does not look like an address.") if text && !text.match?(Address::PATTERN)

          text
        end

        def problem(values)
          return "There is neither a name, a company nor an address in it." if NAMES.none? { |key| values[key] }

          zone = values["person.time_zone"]
          "There is no time zone “#{zone}”." if zone && !Calendar::Zones.known?(zone)
        end
      end
    end
  end
end
