# frozen_string_literal: true

module NimbleLetter
  module Work
    # Keeps count of what fails alike at a mailbox, and lets it rest (Core::Sending::Rest). A letter that is taken, an answer
    # about one address, or a person wakes it.
    module RestMailbox
      AWAKE = {fails_in_row: 0, failing_as: nil, failing_words: nil, rests_until: nil}.freeze

      # @param key [String] the same for failures that are alike
      # @param words [String] what the mail server said
      # @param at [Time] by the clock in use
      def self.failed(mailbox_id, key, words, at:)
        Records.db.transaction do
          box = Records::Mailbox.dataset.for_update.first(id: mailbox_id)
          row = (box.failing_as == key) ? box.fails_in_row + 1 : 1
          seconds = Core::Sending::Rest.seconds(row)
          box.update(fails_in_row: row, failing_as: key, failing_words: words[0, 300], rests_until: seconds && at + seconds)
        end
      end

      # @return [Integer] mailboxes woken
      def self.wake(mailbox_id) = Records::Mailbox.where(id: mailbox_id).exclude(fails_in_row: 0).update(AWAKE)
    end
  end
end
