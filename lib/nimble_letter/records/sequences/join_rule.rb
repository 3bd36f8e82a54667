# frozen_string_literal: true

module NimbleLetter
  module Records
    # By what people join a sequence, see Core::Journey::Joining. It listens while it is switched on and its sequence is under way.
    class JoinRule < Sequel::Model(:join_rules)
      extend JsonColumn
      include Versioned

      json_column :settings

      many_to_one :sequence
      many_to_one :account

      dataset_module do
        def listening = where(listens: true).order(:id)
      end

      # @return [Core::Journey::Joining::Kind]
      def of_kind = Core::Journey::Joining::KINDS.fetch(kind)

      # @return [Sequel::Dataset] of whom a live filter is true already
      def matches = db[:join_matches].where(rule_id: id)

      # @return [Sequel::Dataset] those who would join and cannot yet
      def waits = db[:join_waits].where(rule_id: id)
    end
  end
end
