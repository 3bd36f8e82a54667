# frozen_string_literal: true

module NimbleLetter
  module Records
    # An address the firm writes from, with its daily limit.
    class Mailbox < Sequel::Model(:mailboxes)
      many_to_one :account

      def proved? = !proved_at.nil?

      # @return [Hash] what "sender" fields say in a letter that comes from here
      def sender_facts
        person = account&.name || name
        {"sender.name" => person, "sender.first_name" => person.split.first, "sender.phone" => account&.phone}
      end

      # @return [Array<String>] lines below each letter
      def signature(firm)
        [account&.name || name, [firm.name, account&.phone].compact.join(" · ")]
      end
    end
  end
end
