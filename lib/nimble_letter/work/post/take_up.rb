# frozen_string_literal: true

module NimbleLetter
  module Work
    # What a person does with something that was set aside: has it tried again, or leaves it and lets the rest go on.
    class TakeUp
      STAYS = %w[act file field].freeze

      # @param aside [Records::SetAside]
      # @param moment [Moment]
      def initialize(aside, moment)
        @aside, @moment = aside, moment
      end

      # A letter is due again at once, or when its window opens; all else is tried by whoever worked on it.
      # @return [Boolean] false when somebody has asked for it already
      def again
        Records.db.transaction do
          next false if @aside.lock!.again

          case @aside.kind
          when "letter" then letter_again
          when "round", "journey", "joining", SweepNoes::KIND then @aside.delete # the next round is the next try
          else @aside.update(again: true)
          end
          true
        end
      end

      # A letter's member goes on to the next step without it; who cannot be carried on is taken out; a piece of mail stays in its folder.
      # @return [true]
      # @raise [Invalid] for what is not done and cannot be left half done
      def leave
        if STAYS.include?(@aside.kind)
          raise Invalid.new("What has begun cannot be left half done.", code: :half_done, hint: "Have it tried again, or take it back.")
        end

        Records.db.transaction do
          @aside.lock!
          go_on_without if @aside.kind == "letter"
          take_out if @aside.kind == AdvanceMembers::KIND
          Records::Stirred.where(id: @aside.key).delete if @aside.kind == JoinByRules::KIND
          @aside.delete
          true
        end
      end

      private

      def letter_again
        member, delivery = locked
        if failed?(delivery)
          still_in = member.state == "active"
          delivery.update(
            state: still_in ? "due" : "skipped",
            due_at: Reopening.new(@moment).for(delivery),
            attempts: 0,
            message_id: nil,
            sent_at: nil,
            reason: still_in ? nil : member.left_reason
          )
        end
        @aside.delete
      end

      def go_on_without
        member, delivery = locked
        Passing.without(member, @moment) if failed?(delivery)
      end

      # Who cannot be carried on, and is not tried again, is out; what went round in a circle has ended already.
      def take_out
        member = Records::Member.dataset.for_update.first(id: @aside.key) if /\A\d+\z/.match?(@aside.key)
        Leaving.call(member, "taken_out", at: @moment.now, account_id: @moment.account&.id) if member
      end

      # In the order in which everything else takes them: the member first.
      def locked
        member = Records::Member.dataset.for_update.first(id: @aside.delivery.member_id)
        [member, @aside.delivery.lock!]
      end

      # Somebody else may have been quicker.
      def failed?(delivery) = delivery.state == "failed"
    end
  end
end
