# frozen_string_literal: true

require "bigdecimal"
require "date"

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
        # @param decimal [String, nil] the mark before the fraction; nil: only what says the same with either is understood
        def initialize(order: nil, decimal: ".")
          raise Invalid.new("Dates are written as one of #{ORDERS.join(", ")}.", at: "order") unless order.nil? || ORDERS.include?(order)
          raise Invalid.new("The decimal mark is a point or a comma.", at: "decimal") unless decimal.nil? || DECIMALS.include?(decimal)

          @order, @decimal = order, decimal
          freeze
        end

        ISO = /\A(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ]\d.*)?\z/
        BASIC = /\A((?:19|20)\d{2})(\d{2})(\d{2})(?:T\d.*)?\z/ # ISO 8601 5.2.1.1
        NUMBERS = %r{\A(\d{1,4})[./ -](\d{1,2})[./ -](\d{1,4})\.?\z}
        NAMED = /(?<name>\p{L}{3,12})\.?/
        DAY = /(?<day>\d{1,2})(?:st|nd|rd|th|er|º|°)?\.?/
        DAY_FIRST = /#{DAY} *-?(?:(?:de|of|den) )?#{NAMED},?(?: de| del)?[ -]+(?<year>\d{4})/
        MONTH_FIRST = /#{NAMED} +#{DAY},? +(?<year>\d{4})/
        WORDS = /\A(?:\p{L}+\.?, *)?(?:#{DAY_FIRST}|#{MONTH_FIRST})\z/i
        # A year of two digits up to this many years ahead belongs to this century (RFC 5280 4.1.2.5.1 cuts at 50).
        PIVOT = 50

        # @param text [String]
        # @return [Date, nil] nil when it is none, or cannot be told apart from another; see Yearless for a day without a year
        def date(text)
          text = text.strip
          if (found = ISO.match(text) || BASIC.match(text)) then valid(*found[1..3].map(&:to_i))
          elsif (found = WORDS.match(text)) then in_words(found)
          elsif (found = NUMBERS.match(text)) then numbers(*found[1..3])
          else Yearless.parse(text)
          end
        end

        # @param text [String]
        # @return [BigDecimal, nil]
        def number(text)
          return certain(text) if decimal.nil?

          other = (decimal == ".") ? "," : "."
          plain = text.strip.sub(/\A[£$€]\s?/, "").sub(/\s?[£$€%]\z/, "").gsub(/[\s\u00a0\u202f']/, "")
          return unless plain.match?(/\A[+-]?(\d+|\d{1,3}(#{Regexp.escape(other)}\d{3})+)(#{Regexp.escape(decimal)}\d+)?\z/)

          BigDecimal(plain.delete(other).tr(decimal, "."))
        end

        # What a column of numbers could be written in. "1.234" is one thing with a decimal point and another with a comma.
        # @param texts [Array<String>] non-empty
        # @return [Array<String>] of DECIMALS, those under which every text is a number; one of them where both say the same
        def self.decimals_for(texts)
          read = DECIMALS.to_h { |mark| [mark, texts.map { |text| new(decimal: mark).number(text) }] }
          read = read.reject { |_, numbers| numbers.include?(nil) }
          (read.values.uniq.size > 1) ? read.keys : read.keys.first(1)
        end

        # What a column of texts could be written in.
        # @param texts [Array<String>] non-empty
        # @return [Array<String>] of ORDERS, those under which every text is a date
        def self.orders_for(texts)
          ORDERS.select { |order| texts.all? { |text| new(order: order).date(text) } }
        end

        private

        def certain(text)
          marks = self.class.decimals_for([text])
          self.class.new(decimal: marks.first).number(text) if marks.one?
        end

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
          month = Calendar::MonthNames.number(found[:name])
          month && valid(found[:year].to_i, month, found[:day].to_i)
        end

        def valid(year, month, day) = (Date.new(year, month, day) if year.between?(1, 9999) && Date.valid_date?(year, month, day))
      end
    end
  end
end
