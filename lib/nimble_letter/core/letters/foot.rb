# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # What stands below every letter: who writes, and the way out. Said in the letter's language where we know it.
      Foot = Struct.new(:address, :unsubscribe_url, :language, keyword_init: true) do
        def words
          {
            "de" => "Bitte schreiben Sie mir nicht mehr",
            "fr" => "Merci de ne plus m’écrire",
            "nl" => "Schrijf mij alstublieft niet meer",
            "es" => "Por favor, no me escriban más",
            "it" => "Per favore, non scrivetemi più",
            "cy" => "Peidiwch ag ysgrifennu ataf eto, os gwelwch yn dda"
          }.fetch(language, "Please don't write to me again")
        end
      end
    end
  end
end
