# frozen_string_literal: true

module NimbleLetter
  module Work
    # Deletes the companies, tags, lists and entries of the do-not-mail list that a file or an act made, when it is undone: of the first
    # three, those that nothing uses but the records that went to the bin with it. What somebody has used or changed since stays, and is
    # counted. A tag that stayed because another act had put it on records too goes when that act is undone.
    class Unmake
      # @param set [Records::ChangeSet]
      # @return [Boolean] whether anything may have to go with it
      def self.concerns?(set) = set.act&.key?(ChangeMany::MADE) || set.act&.[]("kind") == "tag"

      # @param set [Records::ChangeSet] all of whose records have been taken back
      # @param moment [Moment]
      def initialize(set, moment)
        @set, @moment = set, moment
        @made = (set.act || {}).fetch(ChangeMany::MADE, {})
        # In the bin by this undo; what they hold of these goes with it.
        @gone = set.entries_dataset.where(state: "undone").select(:person_id)
      end

      # @return [Integer] how many stay
      def call
        take_off_the_list
        companies + tags + lists
      end

      private

      def ids(kind) = @made.fetch(kind, []) | ((kind == "tags") ? left_behind : [])

      # @return [Array<Integer>] tags this act put on records, and which acts made that are undone
      def left_behind
        return [] unless @set.act&.[]("kind") == "tag"

        @left_behind ||= begin
          named = @set.act["names"].filter_map { |name| Records::Tag.found(name)&.id }
          undone = Records::ChangeSet.where(state: "undone").where(Sequel.like(:act, "%\"#{ChangeMany::MADE}\"%")).all
          named & undone.flat_map { |set| set.act.fetch(ChangeMany::MADE, {}).fetch("tags", []) }
        end
      end

      def take_off_the_list
        Records::BlockedAddress.where(id: ids("blocked")).order(:id).all.each { |entry| BlockAddress.take_off(entry, moment: @moment) }
      end

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
