# frozen_string_literal: true

module NimbleLetter
  module Work
    # One letter brought together for some people: facts, lookups, sides of passages, and what was written for one of them
    # only, each read once for all. The stack, the preview, the ready check and the worker all come here, so they agree.
    class Merging
      # @param letter [Records::Letter]
      # @param people [Array<Records::Person>]
      # @param step [Records::Step, nil] whose personal lines and fills go in
      # @param subject [Hash, nil] another subject, see Records::Step#subject_of
      def initialize(letter, people, moment, step: nil, subject: nil)
        @letter, @people, @moment, @step, @subject = letter, people, moment, step, subject
      end

      # @param person [Records::Person] one of them
      # @param mailbox [Records::Mailbox, nil]
      # @return [Core::Letters::Merged]
      def call(person, mailbox)
        merge.call(
          mailbox ? facts[person.id].merge(mailbox.sender_facts) : facts[person.id],
          shown: ->(condition) { shown_to.holds?(condition, person.id) },
          line: lines[person.id],
          filled: fills.fetch(person.id, NONE)
        )
      end

      # @return [Hash{Integer=>String}] by person, why an outside service had nothing to say
      def unanswered = facts && @unanswered

      # @return [ShownTo]
      def shown_to = @shown_to ||= ShownTo.new(documents.flat_map(&:conditions).uniq, facts, @moment)

      NONE = {}.freeze

      private

      def merge = @merge ||= @letter.merge(subject: @subject)

      def documents = @documents ||= @letter.documents

      def facts
        @facts ||= begin
          facts = @moment.facts.for_people(@people, deals: @letter.for_deal?)
          facts.each_value { |known| known["sequence.name"] = @step.sequence.name } if @step
          services = Core::Letters::Lookups.needed(documents)
          known, @unanswered = services.empty? ? [NONE, NONE] : LookUp.new(services, @moment).call(facts)
          known.each { |id, more| facts[id].merge!(more) }
          facts
        end
      end

      def lines = @lines ||= @step ? Records::PersonalLine.of_step(@step.id, ids) : NONE

      def fills = @fills ||= @step ? Records::LetterFill.of_step(@step.id, ids) : NONE

      def ids = @people.map(&:id)
    end
  end
end
