# frozen_string_literal: true

module NimbleLetter
  module Work
    # Whose mailbox a letter comes from: one for all, or each person's owner's with one to fall back on.
    class Sender
      # @param json [Hash] {"kind" => "mailbox" or "owner", "mailbox_id" => Integer or nil}
      def initialize(json)
        @json = json
        @boxes = Records::Mailbox.eager(:account).all
        @chosen = @boxes.find { |box| box.id == json["mailbox_id"] }
        @by_owner = @boxes.select(&:account_id).to_h { |box| [box.account_id, box] }
      end

      # @return [Array<Records::Mailbox, nil>] all that a letter may come from
      def boxes = (@json["kind"] == "owner") ? [*@by_owner.values, @chosen].uniq : [@chosen]

      # @param person [Records::Person]
      # @return [Records::Mailbox, nil]
      def for(person) = (@json["kind"] == "owner") ? (@by_owner[person.owner_id] || @chosen) : @chosen
    end
  end
end
