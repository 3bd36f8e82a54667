# frozen_string_literal: true

module NimbleLetter
  module Work
    # How many of some letters are where, and of how many of those sent what was heard. A letter counts once, however often it was
    # opened, and what is heard of it counts when it counts as sent: somebody may open one whose server never said that it took it.
    module LetterCounts
      KINDS = Core::Results::Heard::KINDS
      # Nothing was heard that a person does themselves.
      UNANSWERED = "unanswered"
      REACTIONS = Core::Results::Heard.bits(*Core::Journey::Happenings::REACTIONS)
      # As the index has them that all of it is counted from; in its order the server goes through it once.
      INDEX = %i[sequence_id step_id state heard letter_id].freeze
      private_constant :REACTIONS, :INDEX

      # @param letters [Sequel::Dataset] of deliveries
      # @param by [Symbol] a column of theirs that says where they belong
      # @return [Hash{Array(Integer, String)=>Integer}] by its value, and a state, one of KINDS or UNANSWERED; 0 for what there is none of
      def self.of(letters, by:)
        letters.group_and_count(*(INDEX | [by])).naked.each_with_object(Hash.new(0)) do |row, counts|
          words(row[:state], row[:heard]).each { |word| counts[[row[by], word]] += row[:count] }
        end
      end

      def self.words(state, heard)
        return [state] unless state == "sent"

        [state, *Core::Results::Heard.kinds(heard), *(UNANSWERED unless heard.anybits?(REACTIONS))]
      end
      private_class_method :words

      # @param kind [String] "sent" or one of KINDS
      # @return [Sequel::Dataset] those of them
      def self.those(letters, kind)
        sent = letters.where(state: "sent")
        (kind == "sent") ? sent : sent.heard(kind)
      end
    end
  end
end
