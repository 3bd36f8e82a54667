# frozen_string_literal: true

module NimbleLetter
  module Records
    # A file that goes with a letter.
    class Attachment < Sequel::Model(:attachments)
      many_to_one :letter

      dataset_module do
        def without_data = select(*(Attachment.columns - [:data]))
      end
    end
  end
end
