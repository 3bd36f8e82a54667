# frozen_string_literal: true

module NimbleLetter
  module Work
    # Moves members into the plan that is in effect, slice by slice, each slice one transaction; whoever's letter is on its way to the
    # server comes with the next round. Killed anywhere, it goes on where it stood: a member carries the number of their plan.
    module ApplyPlan
      SLICE = 500
      REASON = "plan_changed"

      # @param moment [Moment]
      # @param stop [#call] asked between slices
      # @return [Integer] members moved
      def self.round(moment, stop: -> { false })
        changed.sum { |sequence, number| stop.call ? 0 : move_all(sequence, number, moment, stop) }
      end

      # Members whose letter has just left, before they go on: a step added behind it while it was on its way is ahead of them.
      # @param members [Array<Records::Member>] locked, of one sequence and plan
      # @param number [Integer] of that plan
      # @return [Integer] the plan they carry now: the one in effect, as long as it still has the step they stand before
      def self.catch_up(members, number, moment)
        sequence_id = members.first.sequence_id
        plan = moment.plan_of(sequence_id)
        return number unless plan.number > number

        transfer = Transfer.new(sequence_id, plan, moment)
        places = members.to_h { |member| [member.id, transfer.place(member, at_work: true)] }
        return number unless members.all? { |member| places[member.id].step_id == member.step_id }

        write(members, places, plan.number, moment)
        plan.number
      end

      # @return [Array<Array(Records::Sequence, Integer)>] with the number in effect, those that have somebody in an older plan
      def self.changed
        newest = Records::FrozenPlan.where(sequence_id: Records::Sequence.under_way.select(:id))
          .group(:sequence_id).having { max(:number) > 1 }.select_hash(:sequence_id, Sequel.function(:max, :number).as(:number))
        newest.filter_map do |id, number|
          [Records::Sequence[id], number] if Records::Member.active.where(sequence_id: id).where { plan < number }.any?
        end
      end
      private_class_method :changed

      def self.move_all(sequence, number, moment, stop)
        moved = 0
        until stop.call || (count = slice(sequence, number, moment)).zero?
          moved += count
        end
        moved
      end
      private_class_method :move_all

      def self.slice(sequence, number, moment)
        Records.db.transaction do
          members = behind(sequence, number).limit(SLICE).for_update.skip_locked.all
          move(members, sequence, number, moment) if members.any?
          members.size
        end
      rescue *Records::Patience::AWAY
        raise
      rescue *PutAside::OF_ONE_THING
        # One of them keeps the others: they are looked at one by one, and who cannot be moved stays in the plan they carry.
        behind(sequence, number).limit(SLICE).select_map(:id).each { |id| one(id, sequence, number, moment) }
        0
      end
      private_class_method :slice

      def self.one(id, sequence, number, moment)
        PutAside.guard(AdvanceMembers::KIND, id, at: moment.now) do
          Records.db.transaction do
            members = behind(sequence, number).where(Sequel[:members][:id] => id).for_update.skip_locked.all
            move(members, sequence, number, moment) if members.any?
          end
        end
      end
      private_class_method :one

      def self.behind(sequence, number)
        # Without those whom somebody has to decide about, as everything that carries members on.
        alone = Records::SetAside.left_alone(AdvanceMembers::KIND).filter_map { |key| Integer(key, exception: false) }
        on_the_way = Records::Delivery.where(sequence_id: sequence.id, state: %w[claimed on_wire in_doubt]).select(:member_id)
        older = Records::Member.active.where(sequence_id: sequence.id).where { plan < number }
        older.exclude(id: on_the_way).exclude(id: alone).order(:id)
      end
      private_class_method :behind

      def self.move(members, sequence, number, moment)
        # Where nothing but words has changed, nobody's place or time has.
        reworded, members = members.partition { |member| words_only?(sequence, member.plan, number) }
        renumber(reworded, number, moment) if reworded.any?
        replace(members, sequence, number, moment) if members.any?
      end
      private_class_method :move

      def self.words_only?(sequence, from, to)
        between = Records::FrozenPlan.where(sequence_id: sequence.id).where { (number > from) & (number <= to) }
        between.exclude(words_only: true).empty?
      end
      private_class_method :words_only?

      def self.renumber(members, number, moment)
        written = MemberWrites.new(moment)
        members.each { |member| carry(member, {}, number, written) }
        written.flush
      end
      private_class_method :renumber

      def self.replace(members, sequence, number, moment)
        plan = moment.plan_of(sequence.id, number)
        transfer = Transfer.new(sequence.id, plan, moment)
        waiting = Transfer.waiting_for_somebody(members.map(&:id))
        places = members.to_h { |member| [member.id, transfer.place(member, at_work: waiting.include?(member.id))] }
        # A failed letter waits for somebody's decision in the new plan as in the old; a letter that nothing changes keeps its time.
        kept = transfer.kept(members, places)
        here = members.select { |member| places[member.id].step_id == member.step_id }
        going = members - here.select { |member| kept.key?(member.id) || waiting.include?(member.id) }
        call_back(going, places, moment)
        write(members, places, number, moment)
        halted = sequence.state == "paused"
        Onward.new(plan, sequence.id, moment, heard: true, halted: halted).call(going, places: places.slice(*going.map(&:id)))
      end
      private_class_method :replace

      # What they had may lie ahead of them now.
      def self.write(members, places, number, moment)
        written = MemberWrites.new(moment)
        members.each { |member| carry(member, {moved: true, **Records::Member.columns_of(places[member.id])}, number, written) }
        written.flush
      end
      private_class_method :write

      # What waits for its time gets a new one where it is still to come; tasks of removed steps are dropped.
      def self.call_back(members, places, moment)
        ids = members.map(&:id)
        Records::Delivery.where(member_id: ids, state: "due").update(state: "skipped", reason: REASON)
        gone = members.reject { |member| places[member.id].step_id == member.step_id }
        Records::SetAside.where(kind: "letter",
          delivery_id: Records::Delivery.where(member_id: gone.map(&:id), state: "failed").select(:id)).delete
        gone.each do |member|
          Records.db[:tasks].where(member_id: member.id, step_id: member.step_id, state: "open")
            .update(state: "dropped", reason: REASON, version: Sequel[:version] + 1, updated_at: moment.now)
        end
      end
      private_class_method :call_back

      def self.carry(member, place, number, written)
        written.member(member, {plan: number, **place})
        written.event("plan_moved", member, nil, {plan: number, step: member.step_id})
      end
      private_class_method :carry
    end
  end
end
