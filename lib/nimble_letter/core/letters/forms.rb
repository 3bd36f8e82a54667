# frozen_string_literal: true

require "date"

module NimbleLetter
  module Core
    module Letters
      # The forms a merge field can be given in: capitals, "Ana’s", "Monday 18 May", "£1,250.00". Every form is one entry.
      module Forms
        # How words are changed once they stand in words.
        WORDS = {
          "upper" => ->(words, _) { words.upcase },
          "lower" => ->(words, _) { words.downcase },
          "title" => ->(words, _) do
            words.split(/(\s+)/).map { |word| word.match?(/[[:upper:]].*[[:upper:]]/) ? word : word.capitalize }.join
          end,
          "first_up" => ->(words, _) { words[0].upcase + words[1..] },
          "possessive" => ->(words, locale) { locale.possessive(words) }
        }.freeze
        DATES = %w[long day_month weekday short weekday_name month_name year].freeze
        NUMBERS = %w[grouped rounded].freeze
        MONEY = %w[whole exact].freeze
        # Where a form says nothing: what each type reads like.
        LABELS = {
          "upper" => "CAPITALS",
          "lower" => "small letters",
          "title" => "Each Word",
          "first_up" => "First letter large",
          "possessive" => "whose: Ana’s",
          "long" => "18 May 2026",
          "day_month" => "18 May",
          "weekday" => "Monday 18 May",
          "short" => "18/05/2026",
          "weekday_name" => "Monday",
          "month_name" => "May",
          "year" => "2026",
          "grouped" => "1,250",
          "rounded" => "rounded",
          "whole" => "£1,250",
          "exact" => "£1,250.00"
        }.freeze

        # @param field [Fields::Field]
        # @return [Array<String>] the forms it can be given in
        def self.for(field)
          case field.type
          when :date then DATES
          when :number then NUMBERS
          when :money then MONEY
          when :flag then %w[upper]
          else WORDS.keys
          end
        end

        # @param field [Fields::Field]
        # @param value [Object] as a record holds it; a String stands as it is written
        # @param form [String, nil]
        # @return [String, nil] one line; nil when there is nothing to say
        def self.say(field, value, form, locale)
          words = case value
          when nil then return
          when Date then date(value, form || field.form || "long", locale)
          when String then words_of(field, value, locale)
          when true, false then locale.flag(value)
          when Numeric then (field.type == :money) ? money(value, form, locale) : number(value, form, locale)
          else Fields::Saying.say(field, value).to_s
          end
          words = Values.clean(words) or return
          (change = WORDS[form]) ? change.call(words, locale) : words
        end

        # Ours are known in each language; what the firm named itself stands as it is named.
        def self.words_of(field, value, locale)
          return field.key.start_with?("lookup.") ? locale.word(value) : value if field.choices.empty?

          words = field.choices.fetch(value, value)
          field.custom? ? words : locale.word(words)
        end
        private_class_method :words_of

        def self.date(date, form, locale)
          return without_year(date, form, locale) if Fields::Yearless.is?(date)

          case form
          when "weekday_name" then locale.weekday(date)
          when "month_name" then locale.month(date)
          when "year" then date.year.to_s
          else locale.date(date, Locale::DATES.key?(form) ? form : "long")
          end
        end
        private_class_method :date

        # What a day without a year cannot say is nothing, and has its fallback.
        def self.without_year(date, form, locale)
          case form
          when "weekday_name", "year" then nil
          when "month_name" then locale.month(date)
          else locale.date(date, "day_month")
          end
        end
        private_class_method :without_year

        def self.number(value, form, locale)
          case form
          when "grouped" then locale.number(value)
          when "rounded" then locale.number(value, decimals: 0)
          else Fields::Saying.number(value)
          end
        end
        private_class_method :number

        def self.money(value, form, locale)
          (form == "whole") ? locale.money(value.round(-2)) : locale.money(value, exact: form == "exact")
        end
        private_class_method :money
      end
    end
  end
end
