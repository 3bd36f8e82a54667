# frozen_string_literal: true

module NimbleLetter
  module Work
    # A sequence as it would go from now on, under an assumption about people: a draft with those who would get it, a running one with
    # those who are on the way. The journey's own machine decides, and the mailboxes have the room they have.
    class Rehearse
      Rehearsing = Core::Rehearsing
      Steps = Core::Journey::Steps
      private_constant :Rehearsing, :Steps
      DONE_BY_MINUTE = 17 * 60

      # @param sequence [Records::Sequence]
      # @param assumption [Core::Rehearsing::Assumption]
      # @param outlook [Outlook, nil] of a draft, where it is there already
      def initialize(sequence, moment, assumption: Rehearsing::Assumption.nobody, outlook: nil)
        @sequence, @moment, @assumption, @outlook = sequence, moment, assumption, outlook
      end

      # @return [Core::Rehearsing::Rehearsal] run to its end
      def run
        @run ||= begin
          travellers = @sequence.draft? ? joining : on_the_way
          told = {link: method(:link), due: method(:due)}
          imagined = ImaginedChanges.new(plan, travellers.map(&:id), @moment)
          told[:changed] = imagined.method(:call) if imagined.matter?
          assumption = @assumption.about(travellers.map(&:id))
          Rehearsing::Rehearsal.new(@moment.machine, plan, room(travellers), assumption, **told).run(travellers, @moment.now)
        end
      end

      # @return [Rehearsed] what it came to
      def call
        owners = Records::Person.where(id: run.doings.map(&:person_id).uniq).select_hash(:id, :owner_id)
        Rehearsed.new(run, sequence_id: @sequence.id, rates: @assumption.rates, boxes: boxes, owners: owners,
          put_off: put_off, taken: taken, firm: @moment.firm)
      end

      # @return [Outlook, nil] of a draft
      def outlook = @outlook ||= ReadyCheck.new(@sequence, @moment).outlook

      # @return [Hash{Integer=>Records::Mailbox}]
      def boxes = @boxes ||= Records::Mailbox.all.to_h { |box| [box.id, box] }

      private

      def plan = @plan ||= @sequence.plan

      # @return [Hash{Array(Date, Integer)=>Integer}] letters of all else that goes out, by day and mailbox
      def taken
        since = Core::Calendar::Zones.instant(@moment.firm.zone, @moment.today, 0)
        others = Records::Delivery.where(state: Records::Delivery::STILL_DUE + %w[sent], mailbox_id: run.letters.map(&:box_id).uniq)
        others = others.exclude(sequence_id: @sequence.id).where { due_at >= since }
        others.select_map(%i[due_at mailbox_id]).map { |at, id| [@moment.firm.today(at), id] }.tally
      end

      # Whoever starts so many at once fills the mailboxes' days one after the other (DayBook).
      def put_off
        return [] unless @sequence.draft? && outlook

        outlook.rows.select { |row| row.mailbox && row.base > @moment.now }.map { |row| row.person.id }
      end

      def joining
        return [] unless outlook

        places = Hash.new { |all, base| all[base] = plan.entrance(base) }.compare_by_identity
        outlook.rows.select(&:mailbox).map do |row|
          Rehearsing::Traveller.new(row.person.id, core(row.mailbox.id), places[row.base], row.known, false)
        end
      end

      # Each by the plan they carry; those of older plans go on by theirs and are left out where it is no longer the one in effect.
      def on_the_way
        members = Records::Member.active.where(sequence_id: @sequence.id, plan: plan.number, paused_at: nil).order(:id).all
        people = Knowing.people(members.map(&:person_id), plan)
        known = Knowing.new(plan, @moment).of_members(members, people, all: true, heard: true)
        begun = Records::Delivery.where(member_id: members.map(&:id), state: "sent").distinct.select_map(:member_id).to_set
        members.map do |member|
          heard = begun.include?(member.id)
          Rehearsing::Traveller.new(member.person_id, core(member.mailbox_id), member.place, known[member.id], heard)
        end
      end

      def core(id) = (@core ||= {})[id] ||= boxes.fetch(id).to_core

      # What others have written down already takes room as well.
      def room(travellers)
        ids = travellers.map { |one| one.box.id }.uniq
        room = RoomLeft.now(@moment, ids, travellers.map(&:id))
        others = Records::Delivery.where(mailbox_id: ids, state: "due").exclude(sequence_id: @sequence.id)
        ahead = others.where(Sequel[:due_at] > @moment.now).select_map(%i[mailbox_id due_at])
        ahead.each { |id, at| room.sent(id, @moment.firm.today(at), 1) }
        room
      end

      # Whoever clicks follows the link that a lane waits for.
      def link(step)
        @tests ||= plan.all.grep(Steps::Fork).flat_map(&:lanes).map(&:test).grep(Steps::Reaction).select(&:link)
        @tests.find { |test| test.step_id.nil? || test.step_id == step.id }&.link
      end

      # Colleagues are done in the afternoon of the day by which they are to be.
      def due(step, at)
        day = @moment.calendar.after(@moment.firm.today(at), step.due_in)
        Core::Calendar::Zones.instant(@moment.firm.zone, day, DONE_BY_MINUTE)
      end
    end
  end
end
