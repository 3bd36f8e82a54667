# frozen_string_literal: true

module NimbleLetter
  module Records
    # What is written into one person's letter belongs to the round they are in; 0 is whoever has not joined yet.
    module OfMembership
      BEFORE_JOINING = 0

      # @param step_id [Integer]
      # @param person_ids [Array<Integer>, nil] nil: of everybody
      # @return [Array] those of the round that each of them is in, or was in last
      def current(step_id, person_ids = nil)
        rows = where({step_id: step_id, person_id: person_ids}.compact).all
        return rows if rows.empty?

        sequence = Step.where(id: step_id).get(:sequence_id)
        newest = Member.where(sequence_id: sequence, person_id: rows.map(&:person_id).uniq).order(:round).select_hash(:person_id, :id)
        rows.select { |row| row.member_id == newest.fetch(row.person_id, BEFORE_JOINING) }
      end

      # What was written before they joined is theirs from now on.
      # @param members [Hash{Integer=>Integer}] numbers of new members, by person
      def join(step_ids, members)
        waiting = where(step_id: step_ids, person_id: members.keys, member_id: BEFORE_JOINING)
        waiting.distinct.select_map(:person_id).each { |person| waiting.where(person_id: person).update(member_id: members.fetch(person)) }
      end
    end
  end
end
