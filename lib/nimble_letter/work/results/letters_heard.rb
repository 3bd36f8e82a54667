# frozen_string_literal: true

module NimbleLetter
  module Work
    # How many of some letters were sent, and of how many of these what was heard. A letter counts once, however often it was opened,
    # and not before it counts as sent: somebody may open one whose server never said that it took it.
    module LettersHeard
      KINDS = Core::Results::Heard::KINDS
      # As the index has them that all of it is counted from; in its order the server goes through it once.
      INDEX = %i[sequence_id step_id state heard letter_id].freeze
      private_constant :INDEX

      # @param letters [Sequel::Dataset] of deliveries
      # @param by [Symbol] a column of theirs that says where they belong
      # @return [Hash{Array(Integer, String)=>Integer}] by its value, and "sent" or one of KINDS; 0 for what there is none of
      def self.counts(letters, by:)
        letters.group_and_count(*(INDEX | [by])).naked.each_with_object(Hash.new(0)) do |row, counts|
          next unless row[:state] == "sent"

          ["sent", *Core::Results::Heard.kinds(row[:heard])].each { |kind| counts[[row[by], kind]] += row[:count] }
        end
      end

      # @param kind [String] "sent" or one of KINDS
      # @return [Sequel::Dataset] those of them
      def self.of(letters, kind)
        sent = letters.where(state: "sent")
        (kind == "sent") ? sent : sent.heard(kind)
      end
    end
  end
end
