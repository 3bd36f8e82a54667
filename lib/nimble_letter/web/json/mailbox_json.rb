# frozen_string_literal: true

module NimbleLetter
  module Web
    # Mailboxes as the contract has them.
    module MailboxJson
      # @param boxes [Array<Records::Mailbox>]
      # @param sent_today [Hash{Integer=>Integer}]
      def self.write(boxes, sent_today: {})
        owners = Records::Account.select_hash(:id, :name)
        boxes.map do |box|
          {
            id: box.id,
            address: box.address,
            name: box.name,
            **box.values.slice(:account_id, :reply_to, :filing_address, :pace_from, :pace_to, :hours_from, :hours_to, :version),
            owner: owners[box.account_id],
            retired: !box.retired_at.nil?,
            code_sent: !box.code_digest.nil?,
            proved: box.proved?,
            daily_limit: box.daily_limit,
            sent_today: sent_today.fetch(box.id, 0),
            rests_until: box.rests_until,
            failing_words: (box.failing_words if box.rests_until)
          }
        end
      end
    end
  end
end
