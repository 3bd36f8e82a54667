# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # What of a column could be read in two ways, so that somebody has to say which is meant. One rule for what is shown beside a
      # column, for what is settled by itself, and for what is asked before a file is checked.
      module Unclear
        # by reading: what to ask, in words
        QUESTIONS = {
          "order" => ["Say how this file writes its dates.", "Is 03/04 the 3rd of April or the 4th of March?"],
          "decimal" => ["Say how this file writes its numbers.", "Is 1.234 a little more than one, or more than a thousand?"],
          "name_order" => ["Say which name comes first in this file.", "Is “Lark Ana” the given name or the family name first?"]
        }.freeze

        # @param field [Fields::Field, nil] what the column is meant for
        # @param cells [Array] of the column
        # @return [Array(String, Array<String>), nil] key of a reading, and the ways in which all cells can be read; nil where every
        #   reading says the same
        def self.of(field, cells)
          texts = cells.grep(String).map(&:strip).reject(&:empty?)
          return if field.nil? || texts.empty?

          case field.type
          when :date
            texts = texts.reject { |text| Fields::Habit.plain.date(text) }
            ["order", ways(texts) { |some| Fields::Habit.orders_for(some) }] if texts.any?
          when :number, :money
            texts = texts.grep(/[.,]/)
            ["decimal", ways(texts) { |some| Fields::Habit.decimals_for(some) }] if texts.any?
          else
            ["name_order", WholeName::ORDERS] if field.key == Targets::NAME.key && texts.any? { |text| WholeName.unclear?(text) }
          end
        end

        # Those that fit all of them; where one is neither this nor that, those that fit any.
        def self.ways(texts)
          all = yield(texts)
          all.empty? ? texts.flat_map { |text| yield([text]) }.uniq : all
        end
        private_class_method :ways

        # @param columns [Array<Array(Fields::Field, Array)>] fields and cells
        # @return [Hash{String=>Array<String>}] ways by reading, common to all columns
        def self.all(columns)
          found = columns.filter_map { |field, cells| of(field, cells) }
          found.group_by(&:first).transform_values { |some| some.map(&:last).inject(:&) }
        end
      end
    end
  end
end
