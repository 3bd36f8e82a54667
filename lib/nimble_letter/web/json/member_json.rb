# frozen_string_literal: true

module NimbleLetter
  module Web
    # Members as the contract has them.
    module MemberJson
      def self.rows(members)
        people = Records::Person.where(id: members.map(&:person_id)).eager(:company).all.to_h { |person| [person.id, person] }
        due = Records::Delivery.where(member_id: members.map(&:id), state: "due").select_hash(:member_id, :due_at)
        members.map do |member|
          person = people[member.person_id]
          {
            **member.values.slice(:id, :person_id, :state, :left_reason, :status, :status_by_hand, :passed, :joined_at),
            name: person.name,
            company: person.company&.name,
            status_words: Work::MemberStatus::LADDER.words(member.status),
            next_at: due[member.id]
          }
        end
      end
    end
  end
end
