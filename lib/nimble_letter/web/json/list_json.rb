# frozen_string_literal: true

module NimbleLetter
  module Web
    # Lists as the contract has them.
    module ListJson
      # @param id [Integer, nil] only this one
      # @param asker [Records::Account] see Work::WhereUsed
      def self.rows(id = nil, asker:)
        sizes = Records::List.sizes
        used = Work::WhereUsed.new(asker)
        accounts = Records::Account.select_hash(:id, :name)
        lists = id ? Records::List.where(id: id) : Records::List.order(:name)
        lists.all.map do |list|
          {
            id: list.id,
            name: list.name,
            people: sizes.fetch(list.id, 0),
            by: accounts[list.account_id],
            made_from: list.made_from,
            created_at: list.created_at,
            version: list.version,
            used_in: used.list(list)
          }
        end
      end
    end
  end
end
