# frozen_string_literal: true

module NimbleLetter
  module Work
    # How many of some letters are where, and of how many of those sent what was heard (Core::Results::Heard). A letter counts once,
    # however often it was opened.
    module LetterCounts
      KINDS = Core::Results::Heard::KINDS
      # As the index has them that all of it is counted from; in its order the server goes through it once.
      INDEX = %i[sequence_id step_id state heard letter_id].freeze
      private_constant :INDEX

      # @param letters [Sequel::Dataset] of deliveries
      # @param by [Symbol] a column of theirs that says where they belong
      # @return [Hash{Array(Integer, String)=>Integer}] by its value, and what letters count as; 0 for what there is none of
      def self.of(letters, by:)
        letters.group_and_count(*(INDEX | [by])).naked.each_with_object(Hash.new(0)) do |row, counts|
          Core::Results::Heard.counts_as(row[:state], row[:heard]).each { |word| counts[[row[by], word]] += row[:count] }
        end
      end

      # @param kind [String] "sent" or one of KINDS
      # @return [Sequel::Dataset] those of them
      def self.those(letters, kind)
        sent = letters.where(state: "sent")
        (kind == "sent") ? sent : sent.heard(kind)
      end
    end
  end
end
