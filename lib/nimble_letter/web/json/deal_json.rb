# frozen_string_literal: true

module NimbleLetter
  module Web
    # Deals as the contract has them.
    module DealJson
      COLUMNS = %i[id name stage value_pence expected_on closed_on owner_id person_id company_id version].freeze

      # @param dataset [Sequel::Dataset]
      def self.rows(dataset)
        deals = dataset.eager(:person, :company, :owner).order(Sequel.desc(:id)).all
        stages = Records::FieldCatalogue.deal_stages.to_h { |stage| [stage["key"], stage] }
        deals.map do |deal|
          stage = stages[deal.stage]
          deal
            .values
            .slice(*COLUMNS)
            .merge(
              stage_words: stage&.[]("words") || deal.stage,
              outcome: stage&.[]("outcome") || "open",
              person: deal.person&.name,
              company: deal.company&.name,
              owner: deal.owner&.name
            )
        end
      end

      def self.write(deal) = rows(Records::Deal.where(id: deal.id)).first
    end
  end
end
