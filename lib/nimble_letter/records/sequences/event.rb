# frozen_string_literal: true

module NimbleLetter
  module Records
    # What happened; appended and never edited.
    class Event < Sequel::Model(:events)
      extend JsonColumn

      json_column :data

      dataset_module do
        def newest_first = order(Sequel.desc(:occurred_at), Sequel.desc(:id))

        def by_people = where(by_machine: false)

        # By their person too, whose events are found at once.
        # @param member [Member]
        def of_member(member) = where(person_id: member.person_id, member_id: member.id)
      end
    end
  end
end
