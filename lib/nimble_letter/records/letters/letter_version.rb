# frozen_string_literal: true

module NimbleLetter
  module Records
    # What a letter was at a time.
    class LetterVersion < Sequel::Model(:letter_versions)
      include KeptVersion

      many_to_one :letter
    end
  end
end
