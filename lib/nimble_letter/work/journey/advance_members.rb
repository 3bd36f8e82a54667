# frozen_string_literal: true

module NimbleLetter
  module Work
    # Carries on all members whose time has come, slice by slice, each slice one transaction. Several workers may do it at once:
    # SKIP LOCKED keeps them out of each other's way, and a member that was carried on is due no more.
    module AdvanceMembers
      SLICE = 500
      KIND = "journey"

      # @param moment [Moment]
      # @param stop [#call] asked between slices
      # @param hands [Integer] slices under way at once: while one waits for the database, the other decides
      # @return [Integer] members carried on
      def self.round(moment, stop: -> { false }, hands: 1)
        running = Records::Sequence.where(state: "running").select_map(:id)
        return 0 if running.empty?

        # One that is not full is all there is.
        first = slice(moment, running)
        return first if first < SLICE

        others = Array.new(hands - 1) { Thread.new { slices(Moment.new(now: moment.now), running, stop) } }
        first + slices(moment, running, stop) + others.sum(&:value)
      end

      def self.slices(moment, running, stop)
        done = 0
        until stop.call || (count = slice(moment, running)).zero?
          done += count
        end
        done
      end
      private_class_method :slices

      # @return [Time, nil] when the next of them is due
      def self.next_due(after:)
        running = Records::Sequence.where(state: "running").select_map(:id)
        Records::Member.active.where(paused_at: nil, sequence_id: running).where { due_at > after }.min(:due_at)
      end

      def self.slice(moment, running)
        due = due(moment, running).limit(SLICE)
        Records.db.transaction { due.for_update.skip_locked.all.tap { |members| carry(members, moment) }.size }
      rescue *Records::Patience::AWAY
        raise
      rescue *PutAside::OF_ONE_THING
        # One of them keeps the others: they are looked at one by one.
        due.select_map(:id).each { |id| one(id, running, moment) }.size
      end
      private_class_method :slice

      # Without those whom somebody has to decide about.
      def self.due(moment, running)
        alone = Records::SetAside.left_alone(KIND).filter_map { |key| Integer(key, exception: false) }
        due = Records::Member.due(moment.now, running)
        alone.empty? ? due : due.exclude(id: alone)
      end
      private_class_method :due

      def self.carry(members, moment)
        members.group_by { |member| [member.sequence_id, member.plan] }.each do |(sequence_id, number), some|
          Onward.new(moment.plan_of(sequence_id, number), sequence_id, moment).call(some)
        end
      end
      private_class_method :carry

      # Whoever cannot be carried on stays where they are, set aside and shown.
      def self.one(id, running, moment)
        PutAside.guard(KIND, id, at: moment.now) do
          Records.db.transaction do
            carry(Records::Member.due(moment.now, running).where(id: id).for_update.skip_locked.all, moment)
          end
        end
      end
      private_class_method :one
    end
  end
end
