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
        SPLIT = /\s*[,;|]\s*/

        # @param matching [Array<String, nil>] field key of each column
        # @param catalogue [Fields::Catalogue]
        # @param taking [Fields::Taking]
        # @param owners [Hash{String=>Integer,nil}] what was said of names no colleague has
        def initialize(matching, catalogue:, taking:, owners: {})
          @columns = matching.each_with_index.filter_map { |key, i| key && [i, (key == COMPANY) ? COMPANY_FIELD : catalogue[key]] }
          @taking, @owners = taking, owners
          @known = Hash.new { |all, field| all[field] = {} }
        end

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

        # Few values stand in many rows; reading "lead" a hundred thousand times is reading it once.
        def value(field, cell)
          return if cell.nil?
          raise Invalid.new("There is a NUL byte in #{field.label.downcase}; the file may be damaged.") if cell.is_a?(String) && cell.include?("\0")

          case field.type
          when :choice, :reference, :flag then kept(field, cell)
          when :tags, :lists then words(cell)
          else if field.key == "person.email"
                 address(field, cell)
               else
                 @taking.take(field, (cell.is_a?(Numeric) && field.folded?) ? cell.to_s : cell)
               end
          end
        end

        def kept(field, cell)
          kept = @known[field.key]
          return kept[cell] if kept.key?(cell)

          kept[cell] = (field.type == :reference) ? owner(field, cell) : @taking.take(field, cell)
        end

        def owner(field, cell)
          fold = Fold.call(cell.to_s) or return
          @owners.key?(fold) ? @owners[fold] : @taking.take(field, cell.to_s)
        end

        def words(cell) = cell.to_s.split(SPLIT).map { |word| Letters::Values.say(word) }.compact.map { |word| word[0, 80] }.uniq.then { |all| all.empty? ? nil : all }

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
