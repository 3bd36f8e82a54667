# frozen_string_literal: true

module NimbleLetter
  module Records
    # A file that is brought in. States: reading (waits for its columns to be matched), checking, checked (waits for the
    # word), taking_in, done, failed.
    class Import < Sequel::Model(:imports)
      extend JsonColumn
      include Versioned

      json_column :reading, :matching, :choices, :counts

      many_to_one :account
      many_to_one :change_set, class: "NimbleLetter::Records::ChangeSet"

      WORKING = %w[checking taking_in].freeze

      dataset_module do
        def working = where(state: WORKING)
      end

      # @param folder [String] where files that are brought in are kept
      def path(folder) = File.join(folder, file_key)
    end
  end
end
