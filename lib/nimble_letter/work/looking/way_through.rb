# frozen_string_literal: true

module NimbleLetter
  module Work
    # One person's way through a sequence: what lies behind them, and what the journey would decide ahead if nothing happened, each
    # with why then.
    class WayThrough
      # what: "send", "do", "take", "skip", "wait", "leave" or "finish". at: nil while it waits for something to happen. why: in words
      Stop = Struct.new(:step_id, :lane_id, :what, :at, :why, keyword_init: true)
      # for: of Decisions::Wait. reason: of Decisions::Skip and Leave
      WAITS = {"nod" => "Waits until somebody says that it may go.", "outcome" => "Waits until the task is done.",
               "reaction" => "Waits for something to happen."}.freeze
      SKIPS = {not_for_them: "Not for them: they do not meet its condition.", too_late: "Its time is past by then.",
               no_date: "They do not have the date it stands around.", address_failed: "Their address failed.",
               had_it: "They have had it."}.freeze

      BEHIND = Core::Journey::Happenings::BEHIND

      # Of somebody who would join a draft now.
      def self.of_prospect(sequence, person, moment)
        plan = sequence.plan
        new(sequence, plan, moment.known(person, plan), plan.entrance(moment.now), moment)
      end

      # @param member [Records::Member]
      def self.of_member(member, moment)
        plan = moment.plan_of(member.sequence_id, member.plan)
        people = Knowing.people([member.person_id], plan)
        known = Knowing.new(plan, moment).of_members([member], people, all: true, heard: true)[member.id]
        new(member.sequence, plan, known, member.place, moment, member: member)
      end

      # @param member [Records::Member, nil] nil: of somebody who would join
      def initialize(sequence, plan, known, place, moment, member: nil)
        @sequence, @plan, @known, @place, @moment, @member = sequence, plan, known, place, moment, member
      end

      # @return [Stop] of that step on their way; what and at are nil where it does not lie ahead of them for certain
      def at_step(step_id)
        off = off_the_way(step_id)
        stop = ahead.find { |one| one.step_id == step_id } unless off
        stop || Stop.new(step_id: step_id, why: off || "They come to it only if something happens before.")
      end

      # @return [Array<Stop>] in the order of time
      def ahead
        path = Core::Journey::Path.new(@moment.machine, @plan, @known)
        path.ahead(@place, [@place.base, @moment.now].max).map { |point| stop(point) }
      end

      private

      # @return [String, nil] why it does not lie ahead of them at all
      def off_the_way(step_id)
        return unless @member
        return "It is behind them." unless Records::Event.of_member(@member).where(step_id: step_id, kind: BEHIND).empty?

        "They are not on the way any more." unless @member.state == "active"
      end

      def stop(point)
        decision = point.decision
        step = decision.step if decision.respond_to?(:step)
        lane = decision.lane if decision.respond_to?(:lane)
        Stop.new(step_id: step&.id, lane_id: lane&.id, what: decision.class.name.split("::").last.downcase, at: at(decision, point.at),
          why: why(decision, step))
      end

      def at(decision, now)
        return decision.until_at if decision.is_a?(Core::Journey::Decisions::Wait)

        (decision.respond_to?(:due) && decision.due) ? decision.due.at : now
      end

      def why(decision, step)
        case decision
        when Core::Journey::Decisions::Wait then WAITS[decision.for.to_s]
        when Core::Journey::Decisions::Skip then SKIPS[decision.reason]
        when Core::Journey::Decisions::Take then "If nothing happens that it waits for." if step.within
        when Core::Journey::Decisions::Send, Core::Journey::Decisions::Do then WhyThen.say(step, decision.due, @known, @moment)
        end
      end
    end
  end
end
