# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # Which row of a table names its columns. A title may stand above it, and some tables have none: then their first row is
      # somebody already.
      module HeaderRow
        NONE = 0
        LOOKED_AT = 30
        NAMED_WITHIN = 10 # rows; further down it is somebody who is called Kontakt
        VALUE = %r{\A(?:[^\s@]+@[^\s@]+\.[^\s@]+|\+?[\d\s()./,-]{3,}|https?://\S+)\z}

        # @param rows [Array<Array(Integer, Array)>] the first ones that hold something, with their numbers
        # @return [Integer] number of the row, or NONE
        def self.guess(rows)
          rows = rows.first(LOOKED_AT)
          width = filled(rows.map(&:last).max_by { |cells| filled(cells) } || [])
          number, = rows.first(NAMED_WITHIN).find { |_, some| named?(some) }
          return number if number

          number, cells = rows.find { |_, some| 3 * filled(some) > 2 * width }
          (cells.nil? || value?(cells)) ? NONE : number
        end

        def self.filled(cells) = cells.count { |cell| !cell.nil? && !cell.to_s.strip.empty? }
        private_class_method :filled

        # A number, a day or an address names no column.
        def self.value?(cells) = cells.any? { |cell| !cell.nil? && (!cell.is_a?(String) || cell.strip.match?(VALUE)) }
        private_class_method :value?

        def self.named?(cells) = cells.count { |cell| HeaderNames.known?(cell.to_s) } > 1
        private_class_method :named?
      end
    end
  end
end
