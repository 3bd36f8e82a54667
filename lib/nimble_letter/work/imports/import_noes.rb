# frozen_string_literal: true

module NimbleLetter
  module Work
    # What rows say of addresses rather than of records: that one was on the do-not-mail list, or that somebody at it said no. Such an
    # address is put on the list here, unless it is there already, or a record of ours says it too. Undoing the import takes it off again.
    class ImportNoes
      LISTED, SAID = *Core::Sieve::FOLLOWING

      # @param values [Hash{String=>Object}] of a row
      def self.says_no?(values) = Core::Sieve.says_no?(values) || Core::Sieve::FOLLOWING.any? { |key| values[key] }

      # @param import [Records::Import]
      # @param moment [Moment] because of its change set
      def initialize(import, moment)
        @import, @moment = import, moment
      end

      # Of some rows, in the transaction that takes them in.
      # @param rows [Array<Hash{String=>Object}>] values
      def listed(rows) = put(rows.select { |values| values[LISTED] }) { |email| Records::BlockedAddress.blocks?(email) }

      # Of all rows, when all are in: the record that says it may be in the last one.
      # @param rows [Sequel::Dataset] of import_rows
      def said(rows)
        return unless @import.matching.any? { |match| match["field"] == SAID }

        there = ->(email) do
          Records::BlockedAddress.blocks?(email) || NoAtAddress.said_at(Records::SameAddress.keys([Core::Fold.call(email)])).any?
        end
        rows.where(Sequel.like(:values, "%\"#{SAID}\":true%")).order(:number).select_map(:values).each_slice(TakeIn::SLICE) do |some|
          put(some.map { |text| JSON.parse(text) }, &there)
        end
      end

      private

      def put(rows)
        emails = rows.filter_map { |values| values["person.email"] }
        return if emails.empty?

        Records::AddressTurns.take(emails.map { |email| Core::Fold.call(email) })
        made = emails.uniq { |email| Core::Fold.call(email) }.reject { |email| yield(email) }.map do |email|
          BlockAddress.put(kind: "address", value: email, reason: "It was so in #{@import.file_name}"[0, 300], moment: @moment).id
        end
        note(made) if made.any?
      end

      # Other clerks note theirs meanwhile.
      def note(made)
        set = Records::ChangeSet.where(id: @import.change_set_id).for_update.first
        before = set.act.fetch(ChangeMany::MADE, {})
        set.update(act: set.act.merge(ChangeMany::MADE => before.merge("blocked" => before.fetch("blocked", []) + made)))
      end
    end
  end
end
