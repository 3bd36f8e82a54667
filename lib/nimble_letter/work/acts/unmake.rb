# frozen_string_literal: true

module NimbleLetter
  module Work
    # Takes away the companies, tags and lists that a file made, when the file is taken back: those that nothing speaks of but
    # the records that went to the bin with it. What somebody has used or changed since stays, and is counted.
    class Unmake
      # @param set [Records::ChangeSet] of an import, all of whose records have been taken back
      def initialize(set)
        @set = set
        @made = (set.act || {}).fetch("made", {})
        # In the bin by this undo; what they hold of these goes with it.
        @gone = set.entries_dataset.where(state: "undone").select(:person_id)
      end

      # @return [Integer] how many stay
      def call = companies + tags + lists

      private

      def ids(kind) = @made.fetch(kind, [])

      def companies
        people, deals = Records.db[:people], Records.db[:deals]
        used =
          people.where(company_id: ids("companies")).exclude(id: binned).select_map(:company_id) +
          deals.where(company_id: ids("companies")).select_map(:company_id) +
          Records.db[:companies].where(id: ids("companies")).where { version > 1 }.select_map(:id)
        free = ids("companies") - used
        people.where(company_id: free).update(company_id: nil)
        Records.db[:companies].where(id: free).delete
        used.uniq.size
      end

      def tags
        held("tags", Records::Tag, :people_tags, :tag_id) { |tag| used.tag(tag) }
      end

      def lists
        held("lists", Records::List, :list_people, :list_id) { |list| used.list(list) }
      end

      def used = @used ||= WhereUsed.new

      def held(kind, model, table, column)
        records = model.where(id: ids(kind)).all
        worn = Records.db[table].where(column => ids(kind)).exclude(person_id: binned).select_map(column).to_set
        free = records.reject { |record| worn.include?(record.id) || yield(record).any? }
        Records.db[table].where(column => free.map(&:id)).delete
        model.where(id: free.map(&:id)).delete
        records.size - free.size
      end

      def binned = Records.db[:people].where(id: @gone).exclude(deleted_at: nil).select(:id)
    end
  end
end
