# frozen_string_literal: true

module NimbleLetter
  module Work
    # Where members of one sequence stand, as a value that an act can change and that can be put back: the same place, with
    # times reckoned anew. Of each person it is the round they are in, or were in last.
    class Standing
      COLUMNS = %i[state left_reason step_id base begun spent paused_at moved].freeze
      CAN_GO_ON = %w[running paused].freeze
      MOVED = "moved"
      HAD = [*Core::Journey::Happenings::HAD, Core::Journey::Happenings::PARTED].freeze

      # @param sequence_id [Integer]
      # @param moment [Moment]
      def initialize(sequence_id, moment)
        @sequence_id, @moment = sequence_id, moment
      end

      # @param ids [Array<Integer>] people
      # @return [Hash{Integer=>Hash}] as JSON keeps it; nobody who was never in it
      def read(ids) = newest(ids).transform_values { |member| write(member) }

      # @param ids [Array<Integer>] people
      # @param value [Hash] as #read gives it
      def put(ids, value) = lock(newest(ids).values.map(&:id)).each { |member| set(member, value) }

      # Brings those back who left for that reason, and only for it.
      # @param members [Sequel::Dataset]
      # @return [Integer] members who go on
      def self.come_back(members, reason, moment)
        bring_back(members.where(state: "left", left_reason: reason).select_map(:id), moment)
      end

      # @param numbers [Array<Integer>] of members who left
      # @return [Integer] those of them who go on; nobody in a sequence that is over
      def self.bring_back(numbers, moment)
        running = Records::Sequence.where(state: CAN_GO_ON).select(:id)
        left = Records::Member.where(id: numbers, state: "left", sequence_id: running).order(:id).select_map(%i[sequence_id id])
        left.group_by(&:first).sum { |sequence_id, some| new(sequence_id, moment).bring_back(some.map(&:last)) }
      end

      # @param numbers [Array<Integer>] of members who left
      # @return [Integer] those of them who are in it again; nobody who joined anew since
      def bring_back(numbers)
        members = lock(numbers)
        newest = newest(members.map(&:person_id), numbers)
        back = members.select { |member| member.state == "left" && newest[member.person_id].id == member.id }
        back.each { |member| set(member, write(member).merge("state" => "active", "left_reason" => nil)) }
        back.size
      end

      # @return [Hash]
      def write(member)
        COLUMNS.to_h do |column|
          value = member.public_send(column)
          [column.to_s, value.is_a?(Time) ? value.getutc.iso8601(6) : value]
        end
      end

      private

      # @param besides [Array<Integer>] memberships to reckon with although a merge ended them for another one of the same person
      def newest(ids, besides = [])
        counts = Sequel.|({left_reason: nil}, Sequel.~(left_reason: "merged"), {id: besides})
        Records::Member.where(sequence_id: @sequence_id, person_id: ids).where(counts).order(:round).as_hash(:person_id)
      end

      def lock(numbers) = Records::Member.where(id: numbers).order(:id).for_update.all

      def set(member, value) = (value["state"] == "left") ? leave(member, value) : stand(member, value)

      def leave(member, value)
        return if member.state == "left"

        Leaving.call(member, value["left_reason"] || "taken_out", at: @moment.now, account_id: @moment.account&.id, cause: @moment.cause)
      end

      # Back in, at another step, paused or going on.
      def stand(member, value)
        state = Records::Sequence.where(id: @sequence_id).get(:state)
        return unless CAN_GO_ON.include?(state) || member.state == value["state"]

        return if stays_out?(member, value)

        was = write(member)
        member.set(value.transform_keys(&:to_sym).slice(*COLUMNS).merge(times(value)))
        member.left_set = nil unless member.state == "left"
        member.plan = with_step(member) || member.plan
        told(was, value).each { |kind| MemberWrites.tell(kind, member, plan(member)[member.step_id], moment: @moment) }
        set_back(member) unless was["step_id"] == value["step_id"]
        open_again(member)
        go_on(member, state) if member.state == "active" && CAN_GO_ON.include?(state)
        member.save_changes
        Ending.check(@sequence_id, at: @moment.now) if member.state == "finished"
      end

      # Nobody comes back who is in the bin or says no by now: that keeps them out from now on, and they come back when it is undone.
      # @return [Boolean]
      def stays_out?(member, value)
        return false unless member.state == "left" && value["state"] == "active"

        person = Records::Person[member.person_id]
        reason = "in_the_bin" if person.deleted_at
        reason ||= NoAtAddress::REASON if person.no_at_address && NoAtAddress.in_lane([member]).empty?
        reason ? member.update(left_reason: reason) && true : false
      end

      def times(value) = %i[base begun paused_at].to_h { |name| [name, value[name.to_s] && Time.iso8601(value[name.to_s]).utc] }

      # @return [Array<String>] kinds of events
      def told(was, value)
        [
          ("came_back" if was["state"] != "active" && value["state"] == "active"),
          ("finished" if was["state"] == "active" && value["state"] == "finished"),
          ("member_moved" unless was["step_id"] == value["step_id"]),
          ("member_paused" if was["paused_at"].nil? && value["paused_at"]),
          ("member_went_on" if was["paused_at"] && value["paused_at"].nil?)
        ].compact
      end

      # What has not reached the wire of the step they stood before is called back; what they had that lies ahead of them again
      # they do not get twice.
      def set_back(member)
        ahead = plan(member).possibly(member.step_id)
        member.moved ||= !Records::Event.of_member(member).where(kind: HAD, step_id: ahead).empty?
        Records::Delivery.where(member_id: member.id, state: Records::Delivery::CALLED_BACK).exclude(step_id: member.step_id)
          .update(state: "skipped", reason: MOVED, lease: nil, leased_until: nil)
        # Whoever is moved to a letter that failed has it tried again.
        failed = Records::Delivery.where(member_id: member.id, step_id: member.step_id, state: "failed")
        Records::SetAside.where(kind: "letter", delivery_id: failed.select(:id)).delete
        failed.update(state: "skipped", reason: MOVED)
        Records.db[:tasks].where(member_id: member.id, state: "open").exclude(step_id: member.step_id)
          .update(state: "dropped", reason: MOVED, version: Sequel[:version] + 1, updated_at: @moment.now)
      end

      # What leaving or moving had put away of the step they stand before comes back with them.
      def open_again(member)
        if member.begun
          Records.db[:tasks].where(member_id: member.id, step_id: member.step_id, state: "dropped")
            .update(state: "open", reason: nil, version: Sequel[:version] + 1, updated_at: @moment.now)
        end
        return unless member.state == "active"

        failed = Records::Delivery.first(member_id: member.id, step_id: member.step_id, state: "failed")
        LetterAside.again(failed, at: @moment.now) if failed
      end

      def go_on(member, state)
        Onward.new(plan(member), member.sequence_id, @moment, halted: state == "paused").call([member])
      end

      # Whoever still carries the plan before is moved to a step of the one in effect; and a step that is gone is taken back to in the last
      # plan that had it, from which they go on as everybody who stood there.
      # @return [Integer, nil] the number of a plan that has the step they stand before; nil: none, or they stand before none
      def with_step(member)
        step_id = member.step_id or return
        return member.plan if plan(member)[step_id]

        numbers = Records::FrozenPlan.where(sequence_id: @sequence_id).order(Sequel.desc(:number)).select_map(:number)
        numbers.find { |number| @moment.plan_of(@sequence_id, number)[step_id] }
      end

      def plan(member) = @moment.plan_of(member.sequence_id, member.plan)
    end
  end
end
