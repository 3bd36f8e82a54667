# frozen_string_literal: true

module NimbleLetter
  module Web
    # A saved filter as the contract has it.
    module FilterJson
      def self.write(filter, used = Work::WhereUsed.new)
        tree = Records::FieldCatalogue.parser.parse(filter.condition)
        {
          id: filter.id,
          name: filter.name,
          condition: filter.condition,
          sentence: tree ? AudienceWords.sentence(tree) : "a condition that cannot be read any more",
          version: filter.version,
          shared: filter.shared,
          view: filter.view,
          by: filter.account_id && Records::Account.where(id: filter.account_id).get(:name),
          updated_at: filter.updated_at,
          used_in: used.filter(filter)
        }
      end
    end
  end
end
