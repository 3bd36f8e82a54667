# frozen_string_literal: true

module NimbleLetter
  module Records
    # A named condition; always live.
    class SavedFilter < Sequel::Model(:saved_filters)
      extend JsonColumn
      include Versioned

      json_column :condition

      def validate
        super
        errors.add(:name, "A filter needs a name.") if name.to_s.strip.empty?
        errors.add(:name, "There is already a filter of this name.") if SavedFilter.exclude(id: id).where(name: name.to_s.strip).any?
      end
    end
  end
end
