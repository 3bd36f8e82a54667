# frozen_string_literal: true

module NimbleLetter
  module Work
    # What goes by a colleague's name, and stays so when their sign-in is closed.
    module Theirs
      # @param ids [Array<Integer>] of colleagues
      # @return [Hash{Integer=>Hash{Symbol=>Integer}}] by colleague: people they own, tasks they have to do, mailboxes letters come from
      def self.of(ids)
        counts = {
          people: counted(Records::Person.kept.where(owner_id: ids), :owner_id),
          tasks: counted(Records::Task.in_order.where(account_id: ids, state: "open"), :account_id),
          mailboxes: counted(Records::Mailbox.in_use.where(account_id: ids), :account_id)
        }
        ids.to_h { |id| [id, counts.transform_values { |by_id| by_id.fetch(id, 0) }] }
      end

      def self.counted(rows, column) = rows.unordered.group_and_count(column).as_hash(column, :count)
      private_class_method :counted
    end
  end
end
