# frozen_string_literal: true

require "bigdecimal"

module NimbleLetter
  module Core
    module Fields
      # A field's value in words: in letters, tables, exports, histories and explanations.
      module Saying
        module_function

        # @param field [Field]
        # @param value [Object] as the record holds it
        # @param names [Hash] {owners: {1 => "Maren Holt"}, lists: {…}}
        # @return [String, Date, nil] dates stay dates, since each place writes them its own way; nil for nothing
        def say(field, value, names: {})
          return if value.nil? || value == []

          case field.type
          when :choice then field.choices.fetch(value, value)
          when :choices then several(value.map { |one| field.choices.fetch(one, one) })
          when :tags then several(value)
          when :lists then several(value.map { |id| names.fetch(:lists, {}).fetch(id, "list #{id}") })
          when :reference then names.fetch(:owners, {}).fetch(value, "colleague #{value}")
          when :flag then value ? "yes" : "no"
          when :money then money(value)
          when :number then number(value)
          when :date then Yearless.is?(value) ? value.strftime("%-d %b") : value
          else value.to_s
          end
        end

        # @param pence [Integer]
        # @return [String] "£1,200", "£1,200.50"
        def money(pence)
          pounds, rest = pence.to_i.divmod(100)
          "£#{grouped(pounds)}#{format(".%02d", rest) unless rest.zero?}"
        end

        # @return [String] without a fraction that says nothing
        def number(value) = BigDecimal(value.to_s).then { |number| number.frac.zero? ? number.to_i.to_s : number.to_s("F") }

        def grouped(whole) = whole.to_s.reverse.scan(/\d{1,3}/).join(",").reverse

        def several(words) = (words.size > 1) ? "#{words[0..-2].join(", ")} and #{words.last}" : words.first
      end
    end
  end
end
