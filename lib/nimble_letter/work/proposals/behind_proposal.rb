# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who is behind each number that a proposal is told in.
    class BehindProposal
      # @param change [ChangePlan]
      def initialize(change)
        @change = change
      end

      # @param kind [String] of Reckoning::KINDS; or to_come: who is to get a letter in its new words, may_come: who may come to
      #   it by a lane, letter_gap: those of to_come whose letter may have a gap, step_gap: those who may have one at a step with a new
      #   letter
      # @param of [Integer, nil] the letter or the step
      # @return [Array<Integer>] people
      # @raise [Invalid] of what does not run
      def people(kind, of: nil)
        @change.runs!
        case kind
        when "to_come" then letter(of)&.to_come || []
        when "may_come" then letter(of)&.may_come || []
        when "letter_gap" then letter(of)&.gaps || []
        when "step_gap" then @change.gaps.find { |one| one[:step_id] == of }&.fetch(:people) || []
        else @change.reckon.people.fetch(kind, [])
        end
      end

      private

      def letter(id) = @change.words.all.find { |one| one.letter.id == id }
    end
  end
end
