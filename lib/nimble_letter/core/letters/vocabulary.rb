# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Words that a letter takes from records and services, in the languages that letters are written in: yes and no, kinds of
      # companies, the weather. What the firm named itself stands as it is named.
      module Vocabulary
        FLAGS = {
          "en" => %w[yes no],
          "de" => %w[ja nein],
          "fr" => %w[oui non],
          "nl" => %w[ja nee],
          "es" => %w[sí no],
          "it" => %w[sì no],
          "cy" => %w[ie na]
        }.freeze

        # English, then German, French, Dutch, Spanish, Italian, Welsh.
        ORDER = %w[de fr nl es it cy].freeze
        WORDS = {
          "restaurant" => %w[Restaurant restaurant restaurant restaurante ristorante bwyty],
          "school" => %w[Schule école school escuela scuola ysgol],
          "studio" => %w[Studio studio studio estudio studio stiwdio],
          "office" => %w[Büro bureau kantoor oficina ufficio swyddfa],
          "architects' practice" => ["Architekturbüro", "cabinet d’architectes", "architectenbureau", "estudio de arquitectura",
            "studio di architettura", "practis penseiri"],
          "bright sun" => ["heller Sonnenschein", "un grand soleil", "volle zon", "sol radiante", "sole splendente", "haul tanbaid"],
          "thin cloud" => ["leichte Wolken", "quelques nuages", "lichte bewolking", "nubes finas", "nuvole leggere", "cymylau tenau"],
          "low cloud" => ["tiefe Wolken", "des nuages bas", "lage bewolking", "nubes bajas", "nuvole basse", "cymylau isel"],
          "light rain" => ["leichter Regen", "une pluie légère", "lichte regen", "lluvia ligera", "pioggia leggera", "glaw ysgafn"],
          "steady rain" => ["anhaltender Regen", "une pluie continue", "aanhoudende regen", "lluvia continua", "pioggia continua",
            "glaw cyson"],
          "a sea mist" => ["Seenebel", "une brume de mer", "zeemist", "niebla marina", "foschia marina", "niwl y môr"],
          "showers" => ["Schauer", "des averses", "buien", "chubascos", "rovesci", "cawodydd"],
          "a fresh wind" => ["frischer Wind", "un vent frais", "een frisse wind", "viento fresco", "vento fresco", "gwynt ffres"]
        }.freeze

        # @param words [String] in English
        # @param language [String]
        # @return [String] the same words where nobody knows others
        def self.of(words, language)
          at = ORDER.index(language) or return words
          WORDS[words]&.at(at) || words
        end
      end
    end
  end
end
