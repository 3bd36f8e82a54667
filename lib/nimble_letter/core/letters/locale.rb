# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # How a language writes days, numbers and money, as the Unicode CLDR gives it (release 44). A letter has one of these;
      # a language that is not here is written like English.
      class Locale
        ENGLISH_MONTHS = %w[January February March April May June July August September October November December].freeze
        ENGLISH_DAYS = %w[Sunday Monday Tuesday Wednesday Thursday Friday Saturday].freeze
        DATES = {
          "long" => "%-d %{month} %Y",
          "day_month" => "%-d %{month}",
          "weekday" => "%{weekday} %-d %{month}",
          "short" => "%d/%m/%Y"
        }.freeze
        NARROW = "\u202f" # French puts a narrow space that does not break between groups of three

        # months, weekdays (Sunday first), group and point of a number, where the currency sign stands, how dates read.
        LANGUAGES = {
          "en" => {
            months: ENGLISH_MONTHS,
            weekdays: ENGLISH_DAYS,
            group: ",",
            point: ".",
            money: "£%s",
            dates: DATES
          },
          "de" => {
            months: %w[Januar Februar März April Mai Juni Juli August September Oktober November Dezember],
            weekdays: %w[Sonntag Montag Dienstag Mittwoch Donnerstag Freitag Samstag],
            group: ".",
            point: ",",
            money: "%s £",
            dates: {
              "long" => "%-d. %{month} %Y",
              "day_month" => "%-d. %{month}",
              "weekday" => "%{weekday}, %-d. %{month}",
              "short" => "%d.%m.%Y"
            }
          },
          "fr" => {
            months: %w[janvier février mars avril mai juin juillet août septembre octobre novembre décembre],
            weekdays: %w[dimanche lundi mardi mercredi jeudi vendredi samedi],
            group: NARROW,
            point: ",",
            money: "%s £",
            dates: DATES
          },
          "nl" => {
            months: %w[januari februari maart april mei juni juli augustus september oktober november december],
            weekdays: %w[zondag maandag dinsdag woensdag donderdag vrijdag zaterdag],
            group: ".",
            point: ",",
            money: "£ %s",
            dates: DATES.merge("short" => "%d-%m-%Y")
          },
          "es" => {
            months: %w[enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre],
            weekdays: %w[domingo lunes martes miércoles jueves viernes sábado],
            group: ".",
            point: ",",
            money: "%s £",
            dates: {
              "long" => "%-d de %{month} de %Y",
              "day_month" => "%-d de %{month}",
              "weekday" => "%{weekday}, %-d de %{month}",
              "short" => "%d/%m/%Y"
            }
          },
          "it" => {
            months: %w[gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre],
            weekdays: %w[domenica lunedì martedì mercoledì giovedì venerdì sabato],
            group: ".",
            point: ",",
            money: "%s £",
            dates: DATES
          },
          "cy" => {
            months: %w[Ionawr Chwefror Mawrth Ebrill Mai Mehefin Gorffennaf Awst Medi Hydref Tachwedd Rhagfyr],
            weekdays: ["Dydd Sul", "Dydd Llun", "Dydd Mawrth", "Dydd Mercher", "Dydd Iau", "Dydd Gwener", "Dydd Sadwrn"],
            group: ",",
            point: ".",
            money: "£%s",
            dates: DATES
          }
        }.freeze

        attr_reader :language

        # @param language [String, nil] ISO 639-1
        # @return [Locale]
        def self.for(language) = (@made ||= {})[language] ||= new(LANGUAGES.key?(language) ? language : "en")

        def initialize(language)
          @language = language
          @ways = LANGUAGES.fetch(language)
          freeze
        end

        # @param form [String] a key of DATES
        # @return [String]
        def date(date, form) =
          date.strftime(format(@ways[:dates].fetch(form).gsub(/%(?![{])/, "%%"), month: month(date), weekday: weekday(date)))

        def month(date) = @ways[:months][date.month - 1]

        def weekday(date) = @ways[:weekdays][date.wday]

        # @param number [Numeric]
        # @param decimals [Integer, nil] as many as the number has when nil
        # @return [String] grouped by thousands
        def number(number, decimals: nil)
          text = decimals ? number.round(decimals).to_f.then { |rounded| format("%.#{decimals}f", rounded) } : plain(number)
          whole, fraction = text.split(".")
          sign = whole.delete_prefix!("-") ? "-" : ""
          "#{sign}#{whole.reverse.scan(/\d{1,3}/).join(@ways[:group].reverse).reverse}#{"#{@ways[:point]}#{fraction}" if fraction}"
        end

        # @param pence [Integer]
        # @param exact [Boolean] with pence even when there are none
        def money(pence, exact: false)
          decimals = (exact || pence % 100 != 0) ? 2 : 0
          format(@ways[:money], number(Rational(pence, 100), decimals: decimals))
        end

        # @return [String] whose it is: "Ana’s", "Lois’", "Anas", "d’Ana", "di Ana"; Welsh says it by the place of the name alone
        def possessive(name)
          case language
          when "en" then name.match?(/s\z/i) ? "#{name}’" : "#{name}’s"
          when "de" then name.match?(/[sxzß]\z/i) ? "#{name}’" : "#{name}s"
          when "nl" then dutch(name)
          when "fr" then Fold.call(name).to_s.match?(/\A[aeiouyh]/) ? "d’#{name}" : "de #{name}"
          when "es" then "de #{name}"
          when "it" then "di #{name}"
          else name
          end
        end

        # @param value [Boolean]
        # @return [String]
        def flag(value) = Vocabulary::FLAGS.fetch(language)[value ? 0 : 1]

        # @param words [String] in English
        # @return [String]
        def word(words) = Vocabulary.of(words, language)

        private

        def dutch(name)
          return "#{name}’" if name.match?(/[sxz]\z/i)

          name.match?(/[aiouy]\z/i) ? "#{name}’s" : "#{name}s"
        end

        def plain(number) = Fields::Saying.number(number)
      end
    end
  end
end
