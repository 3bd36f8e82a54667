# frozen_string_literal: true

module NimbleLetter
  module Work
    # Rows of a file that are about a record which has been merged into another since the file was checked: they go to the one that
    # stayed.
    module MergedSince
      # @param rows [Array<Array(Integer, Hash)>] person's number and values
      # @return [Array<Array(Integer, Hash)>] likewise, one for each person; what a row says of the record itself comes before what one
      #   of those that became part of it says
      def self.follow(rows)
        stayed = stayed(rows.map(&:first))
        return rows if stayed.empty?

        theirs, others = rows.partition { |id, _| !stayed.key?(id) }
        others.each_with_object(theirs.to_h) { |(id, values), all|
          all[stayed[id]] = both(values, all.fetch(stayed[id], {}))
        }.to_a
      end

      # @param ids [Array<Integer>] people
      # @return [Hash{Integer=>Integer}] by those whose record became part of another: that, or the one which that became part of
      def self.stayed(ids)
        binned = Records::Person.exclude(deleted_at: nil).where(id: ids).select_map(:id).to_set
        return {} if binned.empty?

        into = merges(binned.to_a).to_h { |act| [act["gone"], act["kept"]] }
        into.select! { |id, _| binned.include?(id) }
        further = stayed(into.values)
        into.transform_values { |id| further.fetch(id, id) }
      end

      # @return [Array<Hash>] those that were not taken back, oldest first
      def self.merges(ids)
        sets = Records::ChangeEntry.where(person_id: ids).select(:change_set_id)
        Records::ChangeSet.where(kind: "merge", state: "done", id: sets).order(:id).all.map(&:act)
      end
      private_class_method :merges

      # What can be several is put together.
      def self.both(further, own) = further.merge(own) { |_, one, other| (one.is_a?(Array) && other.is_a?(Array)) ? (other | one) : other }
      private_class_method :both
    end
  end
end
