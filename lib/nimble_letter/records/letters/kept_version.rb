# frozen_string_literal: true

module NimbleLetter
  module Records
    # What a text was at a time: who wrote it, and all of it. Letters and passages keep theirs alike (Work::Versions).
    module KeptVersion
      # typed: as it was left; restored: gone back to; set_aside: another's text that lost a collision, kept all the same
      KINDS = %w[typed restored set_aside].freeze

      def self.included(model)
        model.extend JsonColumn
        model.json_column :content
        model.many_to_one :account
        # Those that were the text itself at some time.
        model.dataset_module { exclude(:current, kind: "set_aside") }
      end
    end
  end
end
