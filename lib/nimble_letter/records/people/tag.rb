# frozen_string_literal: true

module NimbleLetter
  module Records
    # A word people put on records. Two spellings that fold alike are one tag.
    class Tag < Sequel::Model(:tags)
      MOST_A_PERSON = 100
      LONGEST = 80

      # @param name [String]
      # @return [Tag] found, or made
      def self.named(name) = found(name) || create(name: name.strip[0, LONGEST], name_fold: fold(name))

      # @return [Tag, nil]
      def self.found(name) = first(name_fold: fold(name))

      def self.fold(name) = Core::Fold.call(name)&.slice(0, LONGEST) || raise(Invalid.new("A tag needs a word.", at: "tags"))
      private_class_method :fold
    end
  end
end
