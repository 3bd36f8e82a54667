# frozen_string_literal: true

module NimbleLetter
  module Work
    # Conditions in words, with this firm's names for its colleagues, letters, sequences and lists.
    class Sentences
      def initialize(moment)
        @moment = moment
      end

      # @param json [Hash] a condition
      # @return [String] "everyone who is a lead", or that it cannot be read any more
      def of(json)
        tree = parser.parse(json)
        tree ? Core::Conditions::Sentence.new(names: names).say(tree) : "a condition that cannot be read any more"
      end

      # @return [Hash] words for the numbers in a condition, see Core::Conditions::Sentence
      def self.names
        {
          owners: Records::Account.select_hash(:id, :name),
          letters: Records::Letter.select_hash(:id, :name),
          sequences: Records::Sequence.select_hash(:id, :name),
          lists: Records::List.select_hash(:id, :name),
          steps: Records::Step.select_hash(:id, :position).transform_values(&:succ),
          lanes: Records::Lane.exclude(words: nil).select_hash(:id, :words),
          statuses: MemberStatus.all.to_h { |rung| [rung.key, rung.words] }
        }
      end

      private

      def parser = @parser ||= Core::Conditions::Parser.new(@moment.catalogue, uses: %i[condition passage])

      def names = @names ||= Sentences.names
    end
  end
end
