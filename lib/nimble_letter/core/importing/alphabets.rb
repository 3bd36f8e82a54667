# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # How well a text reads that was decoded in one of several ways. In the wrong encoding "Wiśniewska" is "Wiœniewska" and "Łódź" is
      # "£ódŸ": letters that no one language has together, signs within words, capitals behind small letters.
      module Alphabets
        # Letters beside a to z, by language.
        LATIN = {
          "German" => "äöüß", "French" => "àâæçéèêëîïôœùûüÿ", "Spanish" => "áéíñóúü¡¿", "Portuguese" => "áâãàçéêíóôõú",
          "Italian" => "àèéìíòóùú",
          "Dutch" => "áéëïíóöúü", "Danish" => "æøåé", "Swedish" => "åäöé", "Icelandic" => "áðéíóúýþæö", "Catalan" => "àçèéíïòóúü·",
          "Irish" => "áéíóú", "Welsh" => "âêîôûŵŷ", "Polish" => "ąćęłńóśźż", "Czech" => "áčďéěíňóřšťúůýž", "Slovak" => "áäčďéíĺľňóôŕšťúýž",
          "Hungarian" => "áéíóöőúüű", "Romanian" => "ăâîșțşţ", "Croatian" => "čćđšž", "Turkish" => "çğıiöşü", "Lithuanian" => "ąčęėįšųūž",
          "Latvian" => "āčēģīķļņšūž", "Estonian" => "äõöüšž", "Maltese" => "ċġħż", "Esperanto" => "ĉĝĥĵŝŭ"
        }.transform_values { |letters| letters.chars.to_set }.freeze
        # Alphabets that do not mix with a to z within a word.
        OTHERS = /[\p{Cyrillic}\p{Greek}\p{Hebrew}\p{Arabic}\p{Thai}\p{Han}\p{Hiragana}\p{Katakana}\p{Hangul}]/
        WORD = /[\p{L}\p{M}\p{N}\p{S}\u00b7\u00bf\u00a1]*[^\x00-\x7f\p{Z}][\p{L}\p{M}\p{N}\p{S}]*/
        # Letters that hardly stand so in the language that has them: the Spanish ñ before a consonant is a Polish ń, and a Cyrillic word
        # has a vowel and does not begin with a sign.
        UNLIKELY = /ñ[bcdfghjklmnpqrstvwxz]/i
        UNLIKELY_CYRILLIC = /\A(?:[ъьыЪЬЫ].*|[^\p{Cyrillic}]*[\p{Cyrillic}&&[^аеёиоуыэюяіїєАЕЁИОУЫЭЮЯІЇЄ]]{3,})\z/
        # What stands beside words in any language.
        PLAIN = "€£«»“”„‘’‚…–—°§©®™•"
        FITS, UNUSUAL, WRONG = 1.0, -0.5, -2.0

        # @param text [String] UTF-8
        # @return [Float] for each letter beside a to z, 1 when it fits and less when it does not; the higher, the better it reads
        def self.score(text)
          letters = Hash.new(0)
          score = 0.0
          text.scan(WORD) { |word| score += strange(word, letters) }
          score + in_one_language(letters)
        end

        # @param letters [Hash{String=>Integer}] that might belong to a Latin language, counted here
        # @return [Float]
        def self.strange(word, letters)
          return word.scan(OTHERS).size * (word.match?(/[a-z]/i) ? WRONG : fit_of_other(word)) if word.match?(OTHERS)

          score = (word.scan(/\p{Ll}\p{Lu}/).size + word.scan(UNLIKELY).size) * WRONG
          word.each_char do |char|
            next if char.ascii_only? || PLAIN.include?(char)

            char.match?(/\p{L}|[¿¡·]/) ? letters[char.downcase] += 1 : score += WRONG
          end
          score
        end
        private_class_method :strange

        # A capital behind a small letter tells Cyrillic in the wrong order; letters of two alphabets in one word tell more.
        def self.fit_of_other(word)
          return WRONG if word.match?(/\p{Ll}\p{Lu}/) || word.match?(/\p{S}|[¿¡·]/)

          # Names are written without the points of Hebrew.
          return UNUSUAL if word.match?(UNLIKELY_CYRILLIC) || word.match?(/\p{Hebrew}\p{M}|\p{M}\p{Hebrew}/)

          # Names begin with a capital, where the alphabet has any.
          word.match?(/\A\p{Ll}/) ? FITS / 2 : FITS
        end
        private_class_method :fit_of_other

        # @return [Float] by the language that has most of them
        def self.in_one_language(letters)
          total = letters.values.sum
          most = LATIN.values.map { |alphabet| letters.sum { |letter, times| alphabet.include?(letter) ? times : 0 } }.max
          (most * FITS) + ((total - most) * UNUSUAL)
        end
        private_class_method :in_one_language
      end
    end
  end
end
