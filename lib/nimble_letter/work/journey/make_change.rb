# frozen_string_literal: true

module NimbleLetter
  module Work
    # Changes the records of all who have come to a change step, by the same rules as an act on many; it stands in their histories
    # with the sequence that did it.
    class MakeChange
      ACTS = Core::Journey::ChangeKinds::NEEDS.keys - %w[stage status]

      # @param what [String] of Core::Journey::ChangeKinds
      # @param to [Hash]
      # @raise [Invalid] when that cannot be changed so
      def self.check(what, to, sequence, moment)
        case what
        when "stage" then stage(to) or raise Invalid.new("There is no such stage.", at: "steps.to.stage")
        when "status"
          unless MemberStatus.of(sequence).known?(to["status"])
            raise Invalid.new("There is no status #{to["status"].to_s[0, 60].inspect}.", at: "steps.to.status")
          end
        else act(what, to, moment).wanted
        end
      end

      def self.act(what, to, moment) = Act.new({**to, "kind" => what}, moment)

      def self.stage(to) = Records::FieldCatalogue.deal_stages.find { |stage| stage["key"] == to["stage"] }

      # @param step [Core::Journey::Steps::Change]
      # @param members [Array<Records::Member>] locked
      # @param people [Hash{Integer=>Records::Person}]
      # @param moment [Moment]
      # @param plan [Core::Journey::Plan]
      def initialize(step, members, people, plan, moment)
        @step, @members, @people, @plan, @moment = step, members, people, plan, moment
      end

      # @return [Hash{Integer=>String}] by member, why it was not changed
      def call
        case @step.what
        when "stage" then stages
        when "status" then statuses
        else record
        end
      rescue Invalid, NotFound
        # What it speaks of is retired: a tag or a list that is gone, a colleague, a stage.
        @members.to_h { |member| [member.id, "change_gone"] }
      end

      private

      def record
        wanted = self.class.act(@step.what, @step.to, @moment).wanted
        state = RecordState.new(@moment)
        ids = @members.map(&:person_id)
        before = state.read(ids, state.keys_of(wanted))
        changed = before.filter_map { |id, held| state.changes(wanted, held).then { |change| [id, change] unless change.empty? } }.to_h
        state.write(changed)
        RecordEvents.append(changed, before, moment: @moment, by: "sequence", within: within)
        refresh(changed.keys)
        {}
      end

      # @return [Hash{Integer=>Hash{Symbol=>Integer}}] by person
      def within
        @members.to_h do |member|
          [member.person_id, {sequence_id: member.sequence_id, step_id: @step.id, member_id: member.id}]
        end
      end

      # What comes next reads the records as they are now.
      def refresh(ids) = @people.merge!(Knowing.people(ids, @plan))

      # The deal a letter would speak of.
      def stages
        self.class.stage(@step.to) or return @members.to_h { |member| [member.id, "change_gone"] }
        open = Records::FieldCatalogue.deal_stages.select { |stage| stage["outcome"] == "open" }.map { |stage| stage["key"] }
        deals = Records::Deal.where(person_id: @members.map(&:person_id)).all.group_by(&:person_id)
        @members.each_with_object({}) do |member, not_done|
          deal = deals[member.person_id] && Core::Letters::AboutDeal.of(deals[member.person_id], open_stages: open)
          next not_done[member.id] = "no_deal" unless deal

          within = {sequence_id: member.sequence_id, step_id: @step.id, member_id: member.id}
          ChangeDeal.call(deal, {stage: @step.to["stage"]}, version: deal.version, moment: @moment, within: within)
        end
      end

      # One that a colleague has set stays.
      def statuses
        events = @members.filter_map do |member|
          next if member.status_by_hand || member.status == @step.to["status"]

          MemberStatus.move(member, @step.to["status"], at: @moment.now, by_hand: false)
        end
        Records.db[:events].import(events.first.keys, events.map(&:values)) if events.any?
        @members.select(&:status_by_hand).to_h { |member| [member.id, "set_by_hand"] }
      end
    end
  end
end
