# frozen_string_literal: true

module NimbleLetter
  module Post
    # All that a batch of claimed deliveries needs for composing, read with one query a table.
    class Load
      # @param rows [Array<Records::Delivery>]
      # @param moment [Work::Moment]
      def initialize(rows, moment)
        @moment = moment
        @people = Records::Person.where(id: rows.map(&:person_id)).as_hash(:id)
        @facts = moment.facts.for_people(@people.values)
        @letters = Records::Letter.where(id: rows.map(&:letter_id).uniq).as_hash(:id)
        @mailboxes = Records::Mailbox.where(id: rows.map(&:mailbox_id).uniq).eager(:account).all.to_h { |box| [box.id, box] }
        @lines = Records::PersonalLine.where(step_id: rows.map(&:step_id).uniq, person_id: rows.map(&:person_id)).select_hash(%i[step_id person_id], :line)
      end

      def person(row) = @people.fetch(row.person_id)

      def mailbox(row) = @mailboxes.fetch(row.mailbox_id)

      # @return [Composer::Letter]
      def compose(row, composer, now:)
        person, box = person(row), mailbox(row)
        return Composer::Letter.new(nil, nil, nil, nil, [], nil, []) unless person.email

        composer.compose(row, letter: @letters.fetch(row.letter_id), mailbox: box, facts: @facts.fetch(person.id).merge(box.sender_facts),
          to_name: person.name, address: person.email, line: @lines[[row.step_id, row.person_id]], now: now)
      end
    end
  end
end
