# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes the records of many new people at once.
    class ImportNew
      NOT_HERE = [*Core::Importing::Comparison::SETS, *Core::Sieve::FOLLOWING].freeze
      ADDRESSES, NOTE = Core::Importing::Targets::ADDRESSES.key, Core::Importing::Targets::NOTE.key

      # @param marks [ImportMarks]
      def initialize(marks, moment)
        @marks, @moment = marks, moment
        fields = moment.catalogue.select { |field| field.table == :people && field.column && !NOT_HERE.include?(field.key) }
        @fields = fields.to_h { |field| [field.key, field] }
        @own = fields.select { |field| field.custom? && field.folded? }
      end

      # @param rows [Array<Hash{String=>Object}>]
      # @return [Array<Integer>] numbers of the records, in the order of the rows
      def make(rows)
        return [] if rows.empty?

        folds = rows.filter_map { |values| Core::Fold.call(values["person.email"]) }
        Records::AddressTurns.take(folds, shared: rows.none? { |values| Core::Sieve.says_no?(values) })
        keys, @address = Records::SameAddress.keys(folds), Records::SameAddress.column
        blocked, @said = blocked(keys), NoAtAddress.said_at(keys).to_set
        records = rows.map { |values| record(values, blocked) }
        ids = Records::BulkInsert.ids(:people, records)
        put(:people_tags, :tag_id, rows, ids) { |values| @marks.tags(values) }
        put(:list_people, :list_id, rows, ids) { |values| @marks.lists(values) }
        further(rows, ids)
        PersonNotes.append(ids.zip(rows.map { |values| values.fetch(NOTE, []) }), moment: @moment)
        # Those that say no themselves are heard by the others with their address.
        NoAtAddress.follow(records.select { |record| record[:no_at_address] }.map { |record| record[@address] } - @said.to_a, @moment)
        ids
      end

      private

      def record(values, blocked)
        company = @marks.company(values)
        row = {
          standing: "lead",
          consent: "unknown",
          name_order: "given_first",
          version: 1,
          created_at: @moment.now,
          updated_at: @moment.now,
          added_on: @moment.today,
          standing_since: @moment.today,
          company_id: company&.[](:id),
          address_blocked: false,
          do_not_mail: false,
          address_failed: false
        }
        values.each { |key, value| (field = @fields[key]) && row[field.column] = RecordState.to_column(field, value) }
        row[:consent_on] ||= @moment.today unless row[:consent] == "unknown"
        row[:time_zone] ||= zone(row[:country])
        row = Records::Person.with_folds(row, company_name: company&.[](:name), custom: @own)
        row[:address_blocked] = blocked.include?(row[@address]) || blocked.include?(row[:domain_fold])
        row[:no_at_address] = @said.include?(row[@address]) || (!row[:email_fold].nil? && NoAtAddress.says_no?(row))
        row
      end

      def zone(country) = (@zones ||= {}).fetch(country) { |key| @zones[key] = Core::Calendar::Countries.zone(key) }

      def blocked(keys)
        at = Records::SameAddress.blocked_column
        Records::BlockedAddress.where(at => keys + keys.map { |key| key.split("@", 2).last }.uniq).select_map(at).to_set
      end

      def further(rows, ids)
        made = rows.zip(ids).flat_map do |values, id|
          emails = values.fetch(ADDRESSES, []).reject { |email| Core::Fold.call(email) == Core::Fold.call(values["person.email"]) }
          emails.map { |email| {person_id: id, email: email, email_fold: Core::Fold.call(email)} }
        end
        Records::BulkInsert.call(:person_addresses, made)
      end

      def put(table, column, rows, ids)
        Records::BulkInsert.call(
          table,
          rows.zip(ids).flat_map { |values, id| yield(values).map { |other| {:person_id => id, column => other} } }
        )
      end
    end
  end
end
