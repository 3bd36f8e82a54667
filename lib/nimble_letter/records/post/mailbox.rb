# frozen_string_literal: true

module NimbleLetter
  module Records
    # An address the firm writes from, with its daily limit.
    class Mailbox < Sequel::Model(:mailboxes)
      extend JsonColumn
      include Versioned

      json_column :signature

      many_to_one :account

      dataset_module do
        # Those whose letters failed alike again and again, see Core::Sending::Rest.
        # @param now [Time] of the clock in use
        def resting(now) = where { rests_until > now }

        # Those from which nothing leaves by then, because of their pace or their hours.
        def waiting(upto) = where { free_at > upto }

        # Those that somebody may write from.
        def in_use = where(retired_at: nil)
      end

      # @return [Core::Sending::Room::Box]
      def to_core
        pace = [pace_from, pace_to] if pace_from && pace_to
        Core::Sending::Room::Box.new(id: id, a_day: daily_limit, pace: pace, from_minute: hours_from, to_minute: hours_to)
      end

      def proved? = !proved_at.nil?

      # @param now [Time]
      def rests?(now) = !rests_until.nil? && rests_until > now

      # @return [Hash] what "sender" fields say in a letter that comes from here
      def sender_facts
        person = account&.name || name
        {"sender.name" => person, "sender.first_name" => person.split.first, "sender.phone" => account&.phone, "sender.email" => address}
      end

      # What stands below each letter from here: the mailbox's own, else the colleague's, else name and firm.
      # @param firm [Firm]
      # @return [Hash] a document
      def signed(firm) = signature || account&.signature || unsigned(firm)

      private

      def unsigned(firm)
        lines =
          [account&.name || name, [firm.name, account&.phone].compact.join(" · ")].map { |words| {"type" => "text", "text" => words} }
        {"type" => "doc", "content" => [{"type" => "paragraph", "content" => [lines.first, {"type" => "hardBreak"}, lines.last]}]}
      end
    end
  end
end
