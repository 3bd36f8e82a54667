# frozen_string_literal: true

module NimbleLetter
  module Records
    # A file that goes with a letter.
    class Attachment < Sequel::Model(:attachments)
      many_to_one :letter

      dataset_module do
        def kept = where(out_at: nil)

        def without_data = select(*(Attachment.columns - [:data]))
      end

      # A file that some plan's letter brings along is out of the letter, and kept for those who get it.
      # @param now [Time]
      def take_out(now)
        held = LetterText.where(letter_id: letter_id).any? { |text| text.content.fetch("attachments").include?(id) }
        held ? update(out_at: now) : delete
      end
    end
  end
end
