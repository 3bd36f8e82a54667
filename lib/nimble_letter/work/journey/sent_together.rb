# frozen_string_literal: true

module NimbleLetter
  module Work
    # What follows when letters were taken by their servers, for many at once: they are sent, it is told, and their members go on. Whoever
    # is lost between a letter's being taken and this is followed by somebody else who does it; twice is the same as once.
    class SentTogether
      # @param moment [Moment]
      def initialize(moment)
        @moment = moment
      end

      # @param letters [Array<Records::Delivery>]
      # @param held [Sequel::Dataset] the same deliveries, as long as they are the caller's
      # @param people [Hash{Integer=>Records::Person}] those of them who have been read
      # @return [Integer] letters that are sent now
      def call(letters, held:, people: {})
        Records.db.transaction do
          members = Records::Member.where(id: letters.map(&:member_id)).order(:id).for_update.as_hash(:id)
          mine = held.where(id: letters.map(&:id), accepted: true).for_update.select_hash(:id, :sent_at)
          letters = letters.select { |letter| mine.key?(letter.id) }
          sent(mine.keys)
          tell(letters, members, mine)
          onward(letters, members, mine, people)
          letters.size
        end
      end

      private

      def sent(ids)
        Records::Delivery.where(id: ids).update(state: "sent", accepted: false, lease: nil, leased_until: nil, reason: nil)
      end

      def tell(letters, members, at)
        events = letters.flat_map do |letter|
          member, time = members.fetch(letter.member_id), at[letter.id]
          told = {kind: "sent", person_id: letter.person_id, occurred_at: time, delivery_id: letter.id, member_id: member.id,
                  **letter.values.slice(:sequence_id, :step_id, :letter_id)}
          [told, MemberStatus.climb(member, "sent", ladder: @moment.ladder_of(letter.sequence_id), at: time)].compact
        end
        Records::BulkInsert.call(:events, events)
      end

      # Each from the time their letter left.
      def onward(letters, members, at, people)
        here, elsewhere = letters.map { |letter| [letter, members[letter.member_id]] }.partition { |letter, member|
          member.state == "active" && member.step_id == letter.step_id
        }
        elsewhere.each { |_, member| member.save_changes }
        here.group_by { |letter, member| [member.sequence_id, member.plan, at[letter.id]] }.each do |(sequence_id, number, time), some|
          plan = @moment.plan_of(sequence_id, ApplyPlan.catch_up(some.map(&:last), number, @moment))
          places = some.to_h { |_, member| [member.id, plan.after(member.place, time)] }
          Onward.new(plan, sequence_id, @moment.at(time), people: people).call(some.map(&:last), places: places)
        end
      end
    end
  end
end
