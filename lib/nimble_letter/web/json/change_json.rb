# frozen_string_literal: true

module NimbleLetter
  module Web
    # Acts on many records as the contract has them.
    module ChangeJson
      # @param sets [Array<Records::ChangeSet>]
      # @param moment [Work::Moment]
      def self.rows(sets, moment)
        accounts = Records::Account.select_hash(:id, :name)
        sets.map do |set|
          {
            **set.values.slice(:id, :kind, :words, :state, :total, :handled, :kept, :problem, :created_at),
            stays_out: Work::StaysOut.count(set),
            stays_out_of: Work::StaysOut.sequences(set),
            joined: Work::JoinedThrough.members(set, moment).count,
            stays_made: (set.act || {}).fetch("stays", 0),
            by: accounts[set.account_id]
          }
        end
      end
    end
  end
end
