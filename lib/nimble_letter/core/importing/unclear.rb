# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # What of a column could be read in two ways, so that somebody has to say which is meant, unless other cells answer it: 25/12/2025
      # says how 03/04/2026 is meant. One rule for what is settled by itself, what is asked beside the columns, and what is asked before
      # a file is checked.
      class Unclear
        # by reading: what to ask, in words
        QUESTIONS = {
          "order" => ["Say how this file writes its dates.", "Is 03/04 the 3rd of April or the 4th of March?"],
          "decimal" => ["Say how this file writes its numbers.", "Is 1.234 a little more than one, or more than a thousand?"],
          "name_order" => ["Say which name comes first in this file.", "Is “Lark Ana” the given name or the family name first?"]
        }.freeze

        # @param field [Fields::Field, nil] what the column is meant for
        # @return [String, nil] key of the reading that may be asked about such a column
        def self.reading(field)
          case field&.type
          when :date then "order"
          when :number, :money then "decimal"
          else (field&.key == Targets::NAME.key) ? "name_order" : nil
          end
        end

        # @param columns [Array<Unclear>]
        # @return [Hash{String=>Array<String>}] ways by reading: one where the cells say which; those of all columns together
        def self.all(columns)
          columns.reject { |column| column.ways.empty? }.group_by(&:reading).transform_values do |some|
            common = some.map(&:ways).inject(:&)
            common.empty? ? some.flat_map(&:ways).uniq : common
          end
        end

        attr_reader :reading

        # @param reading [String] key of QUESTIONS
        def initialize(reading)
          @reading, @fits = reading, []
        end

        # @param cells [Array] more of the column
        # @return [self]
        def add(cells)
          cells.grep(String).uniq.each do |cell|
            fits = ways_of(cell.strip)
            # What is neither this nor that says nothing; and what was said is not said again.
            @fits |= [fits] if fits.any?
          end
          self
        end

        # @return [Array<String>] the ways in which all cells can be read; those of any where none fits all; none where every reading
        #   says the same
        def ways
          common = @fits.inject(:&) || []
          common.empty? ? @fits.flatten.uniq : common
        end

        # @return [Boolean] whether further cells could answer it
        def open? = @reading != "name_order" && ways.size > 1

        private

        def ways_of(text)
          return [] if text.empty?

          case @reading
          when "order" then Fields::Habit.plain.date(text) ? [] : Fields::Habit.orders_for([text])
          when "decimal" then text.match?(/[.,]/) ? Fields::Habit.decimals_for([text]) : []
          else WholeName.unclear?(text) ? WholeName::ORDERS : []
          end
        end
      end
    end
  end
end
