# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who has said "no" by other ways since an act: an undo of the act does not end these.
    module SaidSince
      RULES = Core::Journey::Happenings

      # @param ids [Array<Integer>] people
      # @param set [Records::ChangeSet]
      # @return [Hash{Integer=>Array<String>}] by person, the keys by which they say it
      def self.of(ids, set)
        kinds = RULES::KINDS.keys.select { |kind| RULES.marks(kind).any? }
        said = Records::Event.where(person_id: ids, kind: kinds, by_machine: false).where { id > set.since_event }
        said.distinct.select_map(%i[person_id kind]).group_by(&:first).transform_values do |pairs|
          pairs.flat_map { |_, kind| RULES.marks(kind).keys.map { |column| "person.#{column}" } }.uniq
        end
      end
    end
  end
end
