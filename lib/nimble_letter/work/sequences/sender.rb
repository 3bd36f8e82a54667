# frozen_string_literal: true

module NimbleLetter
  module Work
    # Whose mailbox a letter comes from: one for all, that of whoever started the sequence, or each person's owner's; with one to fall
    # back on.
    class Sender
      # @param sequence [Records::Sequence] started by somebody, or to be started by whoever looks at it
      def self.of(sequence, moment)
        starter = sequence.draft? ? moment.account&.id : sequence.plans_dataset.order(:number).get(:account_id)
        new(sequence.sender, starter: starter)
      end

      # What every page that shows a letter goes by.
      # @param sequence [Records::Sequence]
      # @param person [Records::Person]
      # @return [Records::Mailbox, nil] their own as a member, else as the plan says
      def self.mailbox_of(sequence, person, moment, sender: of(sequence, moment)) =
        (Records::Member.newest(sequence.id, person.id)&.mailbox unless sequence.draft?) || sender.for(person)

      # @param json [Hash] {"kind" => "mailbox", "starter" or "owner", "mailbox_id" => Integer or nil}
      # @param starter [Integer, nil] number of a colleague
      def initialize(json, starter: nil)
        @json, @starter = json, starter
        @boxes = Records::Mailbox.in_use.eager(:account).all
        @chosen = @boxes.find { |box| box.id == json["mailbox_id"] }
        @by_owner = @boxes.select(&:account_id).to_h { |box| [box.account_id, box] }
      end

      # @return [Array<Records::Mailbox, nil>] all that a letter may come from
      def boxes = (@json["kind"] == "owner") ? [*@by_owner.values, @chosen].uniq : [self.for(nil)]

      # @param zone [TZInfo::Timezone] the firm's
      # @return [Core::Calendar::Hours, nil] in which all letters leave; nil: in all, or that hangs on the person
      def hours(zone)
        box = boxes.first if boxes.one?
        box&.to_core&.hours(zone)
      end

      # @param person [Records::Person]
      # @return [Records::Mailbox, nil]
      def for(person)
        case @json["kind"]
        when "owner" then @by_owner[person.owner_id] || @chosen
        when "starter" then @by_owner[@starter] || @chosen
        else @chosen
        end
      end
    end
  end
end
