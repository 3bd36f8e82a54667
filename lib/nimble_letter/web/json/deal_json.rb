# frozen_string_literal: true

module NimbleLetter
  module Web
    # Deals as the contract has them.
    module DealJson
      COLUMNS = %i[id name stage value_pence expected_on closed_on owner_id person_id company_id version].freeze

      PAGE = 60

      # @param dataset [Sequel::Dataset]
      def self.rows(dataset)
        deals = dataset.eager(:person, :company, :owner).newest_first.all
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

      # @param asked [Hash{Symbol=>Object}] columns that a deal must have
      # @param outcome [String, nil] of its stage
      # @return [Hash] a page, newest first, with how many there are and what they are worth together
      def self.page(asked, outcome:, cursor:)
        deals = Records::Deal.live.where(asked)
        deals = deals.where(stage: Records::FieldCatalogue.stages_that_are(outcome)) if outcome
        page, following = Records::Cursor.page(deals.newest_first, time: :created_at, cursor: cursor, limit: PAGE)
        {
          deals: rows(Records::Deal.where(id: page.map(&:id)).newest_first),
          total: deals.count,
          value_pence: deals.sum(:value_pence).to_i,
          next_cursor: following
        }
      end

      def self.write(deal) = rows(Records::Deal.where(id: deal.id)).first
    end
  end
end
