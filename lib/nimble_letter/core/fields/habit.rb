# frozen_string_literal: true

module NimbleLetter
  module Core
    module Fields
      # How a file writes its dates and numbers. Where both readings are possible it is asked, never guessed.
      class Habit
        ORDERS = %w[ymd dmy mdy].freeze
        DECIMALS = [".", ","].freeze

        # ISO 8601, which people type into a form's date field, and the decimal point.
        def self.plain = @plain ||= new

        attr_reader :order, :decimal

        # @param order [String, nil] one of ORDERS for dates like 03/04/2026; nil: only ISO dates are understood
        # @param decimal [String] the mark before the fraction
        def initialize(order: nil, decimal: ".")
          raise Invalid.new("Dates are written as one of #{ORDERS.join(", ")}.", at: "order") unless order.nil? || ORDERS.include?(order)
          raise Invalid.new("The decimal mark is a point or a comma.", at: "decimal") unless DECIMALS.include?(decimal)

          @order, @decimal = order, decimal
          freeze
        end

        ISO = /\A(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ]\d.*)?\z/
        NUMBERS = %r{\A(\d{1,4})[./ -](\d{1,2})[./ -](\d{1,4})\.?\z}
        WORDS = /\A(?:(\d{1,2})(?:st|nd|rd|th)?\.? +([a-z]{3,9})\.?,? +(\d{4})|([a-z]{3,9})\.? +(\d{1,2})(?:st|nd|rd|th)?,? +(\d{4}))\z/i
        # A year of two digits up to this many years ahead belongs to this century (RFC 5280 4.1.2.5.1 cuts at 50).
        PIVOT = 50

        # @param text [String]
        # @return [Date, nil] nil when it is none, or cannot be told apart from another
        def date(text)
          text = text.strip
          if (found = ISO.match(text)) then valid(*found[1..3].map(&:to_i))
          elsif (found = WORDS.match(text)) then in_words(found)
          elsif (found = NUMBERS.match(text)) then numbers(*found[1..3])
          end
        end

        # @param text [String]
        # @return [BigDecimal, nil]
        def number(text)
          other = (decimal == ".") ? "," : "."
          plain = text.strip.sub(/\A[£$€]\s?/, "").sub(/\s?[£$€%]\z/, "").gsub(/[\s\u00a0\u202f']/, "")
          return unless plain.match?(/\A[+-]?(\d+|\d{1,3}(#{Regexp.escape(other)}\d{3})+)(#{Regexp.escape(decimal)}\d+)?\z/)

          BigDecimal(plain.delete(other).tr(decimal, "."))
        end

        # What a column of texts could be written in.
        # @param texts [Array<String>] non-empty
        # @return [Array<String>] of ORDERS, those under which every text is a date
        def self.orders_for(texts)
          ORDERS.select { |order| texts.all? { |text| new(order: order).date(text) } }
        end

        private

        def numbers(first, second, third)
          return valid(first.to_i, second.to_i, third.to_i) if first.size == 4
          return if order.nil? || first.size > 2

          case order
          when "dmy" then valid(year(third), second.to_i, first.to_i)
          when "mdy" then valid(year(third), first.to_i, second.to_i)
          when "ymd" then (third.size <= 2) ? valid(year(first), second.to_i, third.to_i) : nil
          end
        end

        def year(text) = if text.size > 2
                           text.to_i
                         else
                           text.to_i + ((text.to_i < PIVOT) ? 2000 : 1900)
                         end

        def in_words(found)
          day, name, year = found[1] ? found[1..3] : [found[5], found[4], found[6]]
          month = Date::ABBR_MONTHNAMES.index(name[0, 3].capitalize)
          month && valid(year.to_i, month, day.to_i)
        end

        def valid(year, month, day) = (Date.new(year, month, day) if year.between?(1, 9999) && Date.valid_date?(year, month, day))
      end
    end
  end
end
