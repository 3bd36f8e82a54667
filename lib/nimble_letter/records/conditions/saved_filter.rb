# frozen_string_literal: true

module NimbleLetter
  module Records
    # A named condition; always live. Shared with everybody, or seen by its maker alone.
    class SavedFilter < Sequel::Model(:saved_filters)
      extend JsonColumn
      include Versioned

      json_column :condition, :view

      dataset_module do
        # @param account [Account]
        def seen_by(account) = where(Sequel.|({shared: true}, {account_id: account.id}))

        # @param filter [SavedFilter]
        # @return [Sequel::Dataset] of others that are seen by the same people, or by some of them
        def beside(filter)
          among = filter.shared ? where(shared: true) : where(Sequel.|({shared: true}, {account_id: filter.account_id}))
          among.exclude(id: filter.id)
        end
      end

      def validate
        super
        errors.add(:name, "A filter needs a name.") if name.to_s.strip.empty?
        errors.add(:name, "There is already a filter of this name.") if SavedFilter.beside(self).where(name: name.to_s.strip).any?
      end
    end
  end
end
