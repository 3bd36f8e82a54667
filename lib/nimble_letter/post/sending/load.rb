# frozen_string_literal: true

module NimbleLetter
  module Post
    # All that a batch of claimed deliveries needs for composing, read with one query a table.
    class Load
      # @param rows [Array<Records::Delivery>]
      # @param moment [Work::Moment]
      # @param base_url [String] where pictures are fetched from
      def initialize(rows, moment, base_url:)
        @moment, @base_url = moment, base_url
        @people = Records::Person.where(id: rows.map(&:person_id)).as_hash(:id)
        @mailboxes = Records::Mailbox.where(id: rows.map(&:mailbox_id).uniq).eager(:account).all.to_h { |box| [box.id, box] }
        @steps = Records::Step.where(id: rows.map(&:step_id).uniq).eager(:sequence).all.to_h { |step| [step.id, step] }
        @letters_of = Records::Letter.where(id: rows.map(&:letter_id).uniq).as_hash(:id)
        @types = Records::Company.where(id: @people.values.map(&:company_id).compact.uniq).select_hash(:id, :type)
        members = Records::Member.where(id: rows.map(&:member_id)).select(:id, :joined_by, :plan).all
        @rules, @plans = members.to_h { |one| [one.id, one.joined_by] }, members.to_h { |one| [one.id, one.plan] }
        @threads = threads(rows)
        @barred = Barred.new(@people.values, moment)
        @alike = rows.group_by { |row| alike(row) }
      end

      attr_reader :moment, :barred

      # @return [Time] when the letter goes: at its own time, or now when that has passed
      def departure(row) = [row.due_at, @moment.now].max

      def person(row) = @people.fetch(row.person_id)

      def mailbox(row) = @mailboxes.fetch(row.mailbox_id)

      # What figures are told by later, as it stands when the letter leaves.
      # @return [Hash{Symbol=>Object}] columns of a delivery
      def standing(row)
        person = person(row)
        {owner_id: person.owner_id, standing: person.standing, company_type: @types[person.company_id], joined_by: @rules[row.member_id]}
      end

      # @return [Composer::Letter]
      def compose(row, composer)
        person, box = person(row), mailbox(row)
        return Composer::Letter.new(nil, nil, nil, nil, [], nil, []) unless person.email

        merging, setting, attachments = *letter(row)
        composer.compose(
          row.key,
          merged: merging.call(person, box),
          setting: setting,
          mailbox: box,
          to: [person.name, person.email],
          now: departure(row),
          attachments: attachments,
          thread: @threads.fetch(row.member_id, [])
        )
      end

      private

      def alike(row) = [row.step_id, row.version, row.letter_id, @plans[row.member_id]]

      # Of those whose step answers the letters before it.
      # @return [Hash{Integer=>Array<String>}] by member, the Message-IDs of what they had in this round, oldest first
      def threads(rows)
        answering = rows.select { |row| @moment.plan_of(row.sequence_id, @plans[row.member_id])[row.step_id]&.same_thread }
        return {} if answering.empty?

        Records::Delivery.where(member_id: answering.map(&:member_id), state: "sent").exclude(message_id: nil).order(:sent_at, :id)
          .select_hash_groups(:member_id, :message_id)
      end

      # @return [Array(Work::Merging, Work::Typesetting, Array<Records::Attachment>)] made once for all who get the same, by one plan
      def letter(row)
        (@letters ||= {})[alike(row)] ||= begin
          step = @steps.fetch(row.step_id)
          letter = @moment.held_letter(@letters_of.fetch(row.letter_id), row.sequence_id, @plans[row.member_id])
          people = @alike.fetch(alike(row)).map { |one| person(one) }.uniq(&:id)
          [
            Work::Merging.new(letter, people, @moment, step: step, subject: step.subject_of(row.version)),
            Work::Typesetting.new(letter, firm: @moment.firm, base_url: @base_url),
            letter.attachments
          ]
        end
      end
    end
  end
end
