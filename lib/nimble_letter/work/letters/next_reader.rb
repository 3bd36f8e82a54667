# frozen_string_literal: true

module NimbleLetter
  module Work
    # Whom to look at a letter as next: the one after, the one before, the next with a gap, or anybody.
    class NextReader
      WANTS = %w[next before gap random].freeze

      # @param sequence_id [Integer, nil] as of LetterAudience
      def initialize(letter, moment, sequence_id: nil)
        @audience = LetterAudience.new(letter, moment, sequence_id: sequence_id)
      end

      # @param want [String] one of WANTS
      # @param after [Integer] person id one is at
      # @return [Hash] person_id (nil when there is nobody like that)
      # @raise [Invalid]
      def call(want, after: 0)
        people = @audience.people
        {person_id: case want
                    when "next" then from(people, after)
                    when "before" then people.where { id < after }.max(:id) || people.max(:id)
                    when "gap" then @audience.with_gap&.then { |some| from(some, after) }
                    when "random" then anybody(people, after)
                    else raise Invalid.new("Want one of #{WANTS.join(", ")}.", at: "want")
                    end}
      end

      private

      # Round and round.
      def from(people, after) = people.where { id > after }.min(:id) || people.min(:id)

      # From a place thrown at random: ordering everybody by chance would read them all.
      def anybody(people, after)
        others = people.exclude(id: after)
        first = others.min(:id) or return after
        from(others, rand(first..others.max(:id)) - 1)
      end
    end
  end
end
