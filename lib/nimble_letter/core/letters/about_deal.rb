# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Which deal a letter to somebody is about, when they have several.
      module AboutDeal
        # @param deals [Array<#stage, #updated_at, #created_at, #id>] of one person
        # @param open_stages [Array<String>] stages at which a deal is neither won nor lost
        # @return [Object, nil] the open one that was last worked on, or else the last one
        def self.of(deals, open_stages:) =
          deals.max_by { |deal| [open_stages.include?(deal.stage) ? 1 : 0, deal.updated_at || deal.created_at, deal.id] }
      end
    end
  end
end
