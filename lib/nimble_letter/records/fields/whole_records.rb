# frozen_string_literal: true

module NimbleLetter
  module Records
    # Everything a condition can ask of a person, read into memory: for "why is Ana in?" and for the spec that holds the
    # two readers of a condition together. See Core::Conditions::InMemory#match? for the shape.
    module WholeRecords
      DEAL_FIELDS = Core::Fields::Standard::DEAL

      # @param people [Array<Person>]
      # @return [Hash{Integer=>Hash}] by person id
      def self.read(people)
        ids = people.map(&:id)
        tags = Records.db[:people_tags].where(person_id: ids).join(:tags, id: :tag_id).select_hash_groups(:person_id, :name)
        lists = Records.db[:list_people].where(person_id: ids).select_hash_groups(:person_id, :list_id)
        events = Event.where(person_id: ids).all.group_by(&:person_id)
        members = Member.where(person_id: ids).eager(:step).all.group_by(&:person_id)
        deals = Deal.where(person_id: ids).all.group_by(&:person_id)
        Facts.stored(people).to_h do |id, known|
          [
            id,
            known.merge(
              "person.tags" => tags.fetch(id, []),
              "person.lists" => lists.fetch(id, []),
              "events" => events.fetch(id, []).map { |event| event(event) },
              "memberships" => members.fetch(id, []).map { |member| membership(member, events.fetch(id, [])) },
              "deals" => deals.fetch(id, []).map { |deal| Facts.of_rows(DEAL_FIELDS, deals: deal) }
            )
          ]
        end
      end

      # step: 1 is the first; nil behind the last
      def self.membership(member, events)
        own = events.select { |event| event.member_id == member.id }
        {
          **member.values.slice(:sequence_id, :state, :status, :step_id),
          step: member.step && member.step.position + 1,
          been: own.select { |event| Core::Journey::Happenings::BEHIND.include?(event.kind) }.map(&:step_id).uniq,
          lanes: own.select { |event| event.kind == Core::Journey::Happenings::PARTED }.filter_map { |event| event.data&.[]("lane") }.uniq
        }
      end
      private_class_method :membership

      def self.event(event)
        {
          kind: event.kind,
          at: event.occurred_at,
          by_machine: event.by_machine,
          letter_id: event.letter_id,
          sequence_id: event.sequence_id,
          link: event.data&.[]("link")
        }
      end
      private_class_method :event
    end
  end
end
