# frozen_string_literal: true

require "bigdecimal"

module NimbleLetter
  module Core
    module Fields
      # A field's value as files have it: so that Taking reads the same again, whatever the file's habit. What people read is said
      # by Saying.
      module Writing
        module_function

        # @param field [Field]
        # @param value [Object] as the record holds it
        # @param names [Hash] {owners: {1 => "Maren Holt"}, lists: {…}}
        # @return [String, Date, BigDecimal, nil] nil for nothing
        def write(field, value, names: {})
          return if value.nil? || value == []

          case field.type
          when :choices then several(value.map { |one| field.choices.fetch(one, one) })
          when :tags then several(value)
          when :lists then several(value.map { |id| names.fetch(:lists, {}).fetch(id, "list #{id}") })
          when :money then BigDecimal(value) / 100
          when :number then BigDecimal(value.to_s)
          when :date then Yearless.is?(value) ? Yearless.write(value) : value
          else Saying.say(field, value, names: names)
          end
        end

        # @param number [BigDecimal]
        # @return [String] never with three places, which might be thousands
        def digits(number)
          whole, rest = number.to_s("F").split(".")
          return whole if rest == "0"

          "#{whole}.#{(rest.size == 3) ? "#{rest}0" : rest}"
        end

        def several(words) = Importing::WordsInACell.write(words)
      end
    end
  end
end
