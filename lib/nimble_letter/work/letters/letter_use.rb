# frozen_string_literal: true

module NimbleLetter
  module Work
    # Where a letter is used, and whom a change of it would reach.
    module LetterUse
      # @return [Array<Hash>] sequences under way: id, name, had (letters out), will (letters still to go)
      def self.running(letter)
        deliveries = Records::Delivery.where(letter_id: letter.id)
        sent = deliveries.where(state: "sent").group_and_count(:sequence_id).as_hash(:sequence_id, :count)
        due = deliveries.where(state: Records::Delivery::STILL_DUE).group_and_count(:sequence_id).as_hash(:sequence_id, :count)
        Records::Sequence
          .where(state: %w[running paused], id: (sent.keys + due.keys).uniq)
          .order(:name)
          .all
          .map { |one| {id: one.id, name: one.name, had: sent.fetch(one.id, 0), will: due.fetch(one.id, 0)} }
      end
    end
  end
end
