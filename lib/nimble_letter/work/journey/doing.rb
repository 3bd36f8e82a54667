# frozen_string_literal: true

module NimbleLetter
  module Work
    # Does what a step is that is no letter, for all who have come to it: makes tasks, changes records, hands over. What cannot be
    # done for somebody is passed by with the reason, and keeps nobody else. What the step speaks of may be retired: then whom it
    # concerns is set aside and stays before it.
    class Doing
      Steps = Core::Journey::Steps

      # @param plan [Core::Journey::Plan]
      # @param moment [Moment]
      # @param people [Hash{Integer=>Records::Person}]
      # @param written [MemberWrites]
      def initialize(plan, moment, people, written)
        @plan, @moment, @people, @written = plan, moment, people, written
      end

      # @param doing [Array<Array(Onward::Traveller, Core::Journey::Decisions::Do)>]
      # @return [Array<Array(Onward::Traveller, Object)>] with what became of it: the decision, one to leave, or nil for those who
      #   were set aside
      def call(doing)
        doing.group_by { |_, decision| decision.step }.flat_map do |step, all|
          travellers = all.map(&:first)
          not_done = carry_out(step, travellers.map(&:member))
          travellers.each { |one| note(one.member, step, not_done[one.member.id]) }
          all.map { |traveller, decision| [traveller, after(step, decision, not_done[traveller.member.id])] }
        rescue MakeChange::Gone => error
          travellers.each { |one| PutAside.call(AdvanceMembers::KIND, one.member.id, error, at: @moment.now) }
          travellers.map { |one| [one, nil] }
        end
      end

      private

      # @return [Hash{Integer=>String}] by member, why it could not be done
      def carry_out(step, members)
        case step
        when Steps::Task then MakeTasks.call(step, members, @people, @moment) && {}
        when Steps::Change then MakeChange.new(step, members, @people, @plan, @moment).call
        when Steps::HandOver then HandOver.new(step, members, @moment).call
        end
      end

      # A task that is waited for is done when somebody says so.
      def note(member, step, reason)
        return @written.event("skipped", member, step, {reason: reason}) if reason

        @written.event("step_done", member, step) unless step.is_a?(Steps::Task) && step.waits
      end

      def after(step, decision, reason)
        return decision unless step.is_a?(Steps::HandOver) && !step.stays && reason.nil?

        Core::Journey::Decisions::Leave.new(reason: "handed_over", at: @moment.now)
      end
    end
  end
end
