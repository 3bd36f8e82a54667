# frozen_string_literal: true

module NimbleLetter
  module Work
    # Changes the records of all who have come to a change step, by the same rules as an act on many; it stands in their histories
    # with the sequence that did it.
    class MakeChange
      # What it speaks of is there no more: a list, a colleague, a stage. Nothing has been changed for anybody.
      class Gone < Error; end

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
      # @raise [Gone]
      def call
        case @step.what
        when "stage" then stages
        when "status" then statuses
        else record
        end
      end

      private

      def record
        wanted = there { self.class.act(@step.what, @step.to, @moment).wanted }
        changed, before = RecordState.new(@moment).change(@members.map(&:person_id), wanted)
        within = @members.to_h { |member| [member.person_id, within(member)] }
        RecordEvents.append(changed, before, moment: @moment, by: "sequence", within: within)
        refresh(changed.keys)
        {}
      end

      # @return what the block returns
      def there
        yield
      rescue Invalid, NotFound => error
        raise Gone.new("A change cannot be made any more: #{error.message}", code: :change_gone)
      end

      def within(member) = {sequence_id: member.sequence_id, step_id: @step.id, member_id: member.id}

      # What comes next reads the records as they are now.
      def refresh(ids) = @people.merge!(Knowing.people(ids, @plan))

      # The deal a letter would speak of.
      def stages
        there { self.class.stage(@step.to) or raise NotFound.new("There is no stage “#{@step.to["stage"]}”.") }
        open = Records::FieldCatalogue.stages_that_are("open")
        deals = Records::Deal.where(person_id: @members.map(&:person_id)).for_update.all.group_by(&:person_id)
        @members.each_with_object({}) do |member, not_done|
          deal = deals[member.person_id] && Core::Letters::AboutDeal.of(deals[member.person_id], open_stages: open)
          next not_done[member.id] = "no_deal" unless deal

          ChangeDeal.call(deal, {stage: @step.to["stage"]}, version: deal.version, moment: @moment, within: within(member))
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
