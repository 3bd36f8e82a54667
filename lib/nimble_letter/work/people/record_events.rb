# frozen_string_literal: true

module NimbleLetter
  module Work
    # Appends to people's histories what changed in their records, from what to what.
    module RecordEvents
      # @param changed [Hash{Integer=>Hash{String=>Object}}] new values by person and key, see RecordState
      # @param before [Hash{Integer=>Hash{String=>Object}}]
      # @param by [String, nil] "bulk", "import", "merge", "undo" or "sequence", when it was not done on the record itself
      # @param within [Hash{Integer=>Hash}] by person, the sequence_id, step_id and member_id that did it
      def self.append(changed, before, moment:, account_id: moment.account&.id, by: nil, within: {})
        names = names_for(changed)
        rows = changed.flat_map do |id, after|
          # Where somebody stands is told by what moved them.
          after.except(*Core::Fields::GoingWith::KEYS).reject { |key, _| key.start_with?(RecordState::PLACE) }.map do |key, value|
            data = {
              field: key,
              from: before.fetch(id, {})[key],
              to: value,
              name: names[key],
              by: by,
              how: after["person.consent_how"]
            }.compact
            {kind: "field_changed", person_id: id, occurred_at: moment.now, account_id: account_id, data: JSON.generate(data),
             **within.fetch(id, {})}
          end
        end
        Records::BulkInsert.call(:events, rows)
      end

      # A history must still read right when a tag or list has another name, or none.
      def self.names_for(changed)
        keys = changed.values.flat_map(&:keys).uniq
        numbers = ->(prefix) { keys.filter_map { |key| key.start_with?(prefix) && key.delete_prefix(prefix).to_i } }
        tags = Records::Tag.where(id: numbers.call("tag:")).select_hash(:id, :name).transform_keys { |id| "tag:#{id}" }
        lists = Records::List.where(id: numbers.call("list:")).select_hash(:id, :name).transform_keys { |id| "list:#{id}" }
        tags.merge(lists)
      end
      private_class_method :names_for
    end
  end
end
