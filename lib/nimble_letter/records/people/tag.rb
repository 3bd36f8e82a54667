# frozen_string_literal: true

module NimbleLetter
  module Records
    # A word people put on records. Two spellings that fold alike are one tag.
    class Tag < Sequel::Model(:tags)
      # @param name [String]
      # @return [Tag] found, or made
      def self.named(name)
        fold = Core::Fold.call(name) or raise Invalid.new("A tag needs a word.", at: "tags")
        first(name_fold: fold) || create(name: name.strip[0, 80], name_fold: fold[0, 80])
      end
    end
  end
end
