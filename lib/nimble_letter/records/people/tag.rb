# frozen_string_literal: true

module NimbleLetter
  module Records
    # A word people put on records. Two spellings that fold alike are one tag.
    class Tag < Sequel::Model(:tags)
      MOST_A_PERSON = 100
      LONGEST = 80

      # @param name [String]
      # @return [Tag] found, or made
      def self.named(name)
        fold = Core::Fold.call(name)&.slice(0, LONGEST) or raise Invalid.new("A tag needs a word.", at: "tags")
        first(name_fold: fold) || create(name: name.strip[0, LONGEST], name_fold: fold)
      end
    end
  end
end
