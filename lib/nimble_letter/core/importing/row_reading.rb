# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # Reads the cells of one row as values of fields, or says why the row cannot be taken in.
      class RowReading
        # values: by field key, as records hold them, without the empty ones; problem: nil, or why the row is refused; left_out: why
        # single values of it are
        Row = Struct.new(:values, :problem, :left_out)

        NAMES = ["person.first_name", "person.last_name", "person.known_as", "person.email", Targets::COMPANY.key].freeze
        # A column for one of these is enough to know somebody by.
        KNOWN_BY = [*NAMES, Targets::NAME.key].freeze
        # What nobody may be read over: an answer about consent that is not understood could be a no.
        NEVER_LEFT_OUT = %w[person.consent].freeze
        MOST_IN_A_CELL = 100
        MOST_UNKNOWN = 50

        # Marks that say no can be added by a file; a "no" in their column says nothing.
        # @param matching [Array<String, nil>] field key of each column
        # @param catalogue [Fields::Catalogue]
        # @param taking [Fields::Taking]
        # @param owners [Hash{String=>Integer,nil}] what was said of names no colleague has
        # @param name_order [String, nil] of WholeName::ORDERS
        def initialize(matching, catalogue:, taking:, owners: {}, name_order: nil)
          @columns = matching.each_with_index.filter_map { |key, i| key && [i, Targets::ALL[key] || catalogue[key]] }
          @taking, @owners, @name_order = taking, owners, name_order
          @known = Hash.new { |all, field| all[field] = {} }
          @unknown_owners = []
        end

        # @return [Array<String>] names in the rows read so far that no colleague has
        attr_reader :unknown_owners

        # @param cells [Array]
        # @return [Row]
        def read(cells)
          values, left_out, @address_name = {}, [], nil
          @columns.each do |i, field|
            value = value(field, cells[i])
            put(values, field, value) unless value.nil?
          rescue Fields::Taking::NotAChoice => error
            raise if NEVER_LEFT_OUT.include?(field.key)

            left_out << error.message
          end
          named_by_address(values)
          Row.new(values, problem(values), left_out)
        rescue Invalid => error
          Row.new(values, error.message, left_out)
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

        def put(values, field, value)
          case field.key
          when "person.email"
            values[field.key] = value.addresses.first
            more = value.addresses.drop(1)
            values[Targets::ADDRESSES.key] = values.fetch(Targets::ADDRESSES.key, []) | more if more.any?
            @address_name = value.name
          when Targets::NAME.key
            {"person.title" => :title, "person.first_name" => :given, "person.last_name" => :family}.each do |key, part|
              values[key] ||= value[part] if value[part]
            end
          when *Sieve::MARKS then values[field.key] = true if value
          when *ColumnMatching::SEVERAL then values[field.key] = values.fetch(field.key, []) | value
          else values[field.key] = value
          end
        end

        # "Ana Lark <ana@…>" says who that is, where no column does.
        def named_by_address(values)
          name = @address_name
          return if name.nil? || values.keys.intersect?(NAMES - ["person.email", Targets::COMPANY.key])

          put(values, Targets::NAME, WholeName.split(name, "given_first"))
        end

        def read_cell(field, cell)
          if cell.is_a?(String) && cell.include?("\0")
            raise Invalid.new("There is a NUL byte in #{field.label.downcase}; the file may be damaged.")
          end

          case field.key
          when "person.email" then address(field, cell)
          when Targets::ADDRESSES.key then address(field, cell)&.addresses
          when Targets::NAME.key then whole_name(cell)
          when Targets::NOTE.key then @taking.take(field, cell.to_s)&.then { |text| [text] }
          else by_type(field, cell)
          end
        end

        def by_type(field, cell)
          case field.type
          when :reference then owner(field, cell)
          when :tags, :lists then words(cell)
          # A number of a workbook is pounds, whole or not.
          when :money then @taking.take(field, cell.is_a?(Numeric) ? BigDecimal(cell.to_s) : cell)
          when :choices then @taking.take(field, WordsInACell.read(cell.to_s))
          when :date then @taking.take(field, cell.is_a?(Numeric) ? cell.to_s : cell)
          else @taking.take(field, (cell.is_a?(Numeric) && field.folded?) ? cell.to_s : cell)
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

        def words(cell)
          all = WordsInACell.read(cell.to_s).map { |word| word[0, 80] }
          raise Invalid.new("There are #{all.size} in one cell; that is more than a person has.") if all.size > MOST_IN_A_CELL

          all.empty? ? nil : all
        end

        def whole_name(cell)
          text = Letters::Values.clean(cell.to_s) or return
          split = WholeName.split(text, @name_order) or
            raise Invalid.new("It is not said whether “#{text[0, 60]}” has the given or the family name first.")
          keys = {title: "person.title", given: "person.first_name", family: "person.last_name"}
          split.to_h { |part, words| [part, @taking.take(Fields::Standard.catalogue[keys.fetch(part)], words)] }
        end

        # @return [AddressCell::Found, nil]
        def address(field, cell)
          return if cell.to_s.strip.empty?

          found = AddressCell.read(cell.to_s)
          return found.tap { found.addresses.each { |one| @taking.take(Fields::Standard.catalogue["person.email"], one) } } if found
          raise Invalid.new("There is a line break in the address.") if cell.to_s.strip.match?(/[\r\n]/)

          raise Invalid.new("“#{cell.to_s.strip[0, 80]}” does not look like an address.")
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
