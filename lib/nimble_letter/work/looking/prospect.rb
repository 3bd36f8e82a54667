# frozen_string_literal: true

module NimbleLetter
  module Work
    # Somebody who would join a sequence: from whom they would hear, when their first step is counted from, and what lies ahead of
    # them. Most is asked of few, so it is reckoned when it is asked.
    class Prospect
      LETTER = Core::Journey::Steps::Letter
      private_constant :LETTER

      # person: as much of them as the journey asks for.
      attr_reader :person, :mailbox, :base, :known

      # @param person [Records::Person]
      # @param mailbox [Records::Mailbox, nil]
      # @param base [Time]
      # @param due [Integer, nil] when their first letter is, in seconds since 1970, where that was asked
      # @param known [Core::Journey::Known]
      # @param plan [Core::Journey::Plan]
      def initialize(person, mailbox, base, due, known, plan, moment)
        @person, @mailbox, @base, @due, @known, @plan, @moment = person, mailbox, base, due, known, plan, moment
      end

      # @return [Core::Journey::Decisions, nil] what the journey decides of them first, where that is about a letter; what else they begin
      #   with may ask about what is so only when they have joined
      def first
        @first ||= @moment.machine.next(@plan, @plan.entrance(base), known, @moment.now) if @plan.steps.first.is_a?(LETTER)
      end

      # @return [Array<Array(Core::Journey::Steps::Letter, Time)>] in order, if they do nothing
      def passage
        @passage ||= @moment.ways(@plan).letters(@known, @plan.entrance(base), base)
      end

      # @return [Time, nil] when their first letter goes; nil when there is none
      def first_at = (@plan.every_letter? && @due) ? Time.at(@due).utc : passage.first&.last

      # @return [Boolean] whether they may come to a step
      def reaches?(step) = @plan.simple? || reach.include?(step.id)

      private

      def reach = @reach ||= Core::Journey::Reach.of(@plan, @known)
    end
  end
end
