# frozen_string_literal: true

module NimbleLetter
  module Records
    # What one act did to which records, so that it can be taken back: one entry a person, with what it was before.
    class ChangeSet < Sequel::Model(:change_sets)
      extend JsonColumn

      json_column :act

      OPEN = %w[waiting undoing].freeze
      KINDS = %w[bulk import merge].freeze

      many_to_one :account
      one_to_many :entries, class: "NimbleLetter::Records::ChangeEntry"

      def before_create
        self.since_event = Event.max(:id).to_i
        super
      end

      dataset_module do
        def unfinished = where(state: OPEN)

        def newest_first = order(Sequel.desc(:id))
      end
    end
  end
end
