# frozen_string_literal: true

require "tzinfo"

module NimbleLetter
  module Core
    module Calendar
      # Guesses a time zone from a country as people write it. A guess: whoever knows better may correct it.
      module Countries
        OTHER_NAMES = {
          "uk" => "GB",
          "united kingdom" => "GB",
          "great britain" => "GB",
          "england" => "GB",
          "scotland" => "GB",
          "wales" => "GB",
          "northern ireland" => "GB",
          "usa" => "US",
          "u.s.a." => "US",
          "united states" => "US",
          "united states of america" => "US",
          "america" => "US",
          "eire" => "IE",
          "republic of ireland" => "IE",
          "holland" => "NL",
          "the netherlands" => "NL",
          "deutschland" => "DE",
          "espana" => "ES",
          "italia" => "IT",
          "osterreich" => "AT",
          "schweiz" => "CH",
          "south korea" => "KR",
          "czechia" => "CZ",
          "czech republic" => "CZ",
          "russia" => "RU",
          "turkiye" => "TR",
          "turkey" => "TR",
          "taiwan" => "TW",
          "vietnam" => "VN"
        }.freeze
        # Where a country has several zones and tzinfo names another one first.
        MOST_LIVE_IN = {
          "ES" => "Europe/Madrid",
          "PT" => "Europe/Lisbon",
          "DE" => "Europe/Berlin",
          "US" => "America/New_York",
          "CA" => "America/Toronto",
          "AU" => "Australia/Sydney",
          "BR" => "America/Sao_Paulo",
          "RU" => "Europe/Moscow",
          "NZ" => "Pacific/Auckland",
          "CN" => "Asia/Shanghai"
        }.freeze

        # @param country [String, nil] a name or an ISO 3166 code
        # @return [String, nil] a zone's name
        def self.zone(country)
          code = code(country) or return
          MOST_LIVE_IN[code] || TZInfo::Country.get(code).zone_identifiers.first
        end

        # @param country [String, nil]
        # @return [String, nil] ISO 3166 code
        def self.code(country) = Fold.call(country)&.then { |fold| OTHER_NAMES[fold] || by_name[fold] }

        def self.by_name
          @by_name ||= TZInfo::Country.all.flat_map { |one| [[Fold.call(one.name), one.code], [one.code.downcase, one.code]] }.to_h.freeze
        end
        private_class_method :by_name
      end
    end
  end
end
