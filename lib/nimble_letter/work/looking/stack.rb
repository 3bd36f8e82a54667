# frozen_string_literal: true

module NimbleLetter
  module Work
    # The actual letters of one step for actual people, before and after the start.
    class Stack
      FIRST = 200 # people among whom a letter to show is looked for

      # @param step [Records::Step]
      def initialize(step, moment)
        @step, @sequence, @moment = step, step.sequence, moment
      end

      # Somebody whose letter shows what the step says, one without a gap if one of the first has none; nobody's letter is merged for it.
      # Of a step that is no letter, the first.
      # @return [Hash, nil] person_id, name, and the total of letters
      def reader
        ids = @sequence.draft? ? outlook.ids : @sequence.members_dataset.order(:person_id).select_map(:person_id)
        some = ids.first(FIRST)
        person = Records::Person[some.find { |id| !lacking(some).include?(id) } || ids.first] or return
        {person_id: person.id, name: person.name, total: ids.size}
      end

      # @param person [Records::Person]
      # @return [Hash] the merged letter and its sender; of a draft, its time stands in the list only, which has worked out those before it
      def letter(person)
        delivery = delivery_of(person)
        mailbox = mailbox_for(person, delivery)
        common = {
          person_id: person.id,
          mailbox: mailbox && {address: mailbox.address, name: mailbox.name},
          state: state_of(delivery),
          goes_at: delivery ? delivery.sent_at || delivery.due_at : (reckoned(person) unless @sequence.draft?),
          time_zone: person.time_zone || @moment.firm.time_zone,
          version: version_of(person, delivery)
        }
        return common.merge(as_it_went(delivery)) if delivery&.state == "sent"

        merging = merging_for(person, delivery)
        merged = merging.call(person, mailbox)
        line = line_of(person)
        common.merge(
          line: line&.line,
          line_after: line&.after,
          places: places(letter_for(version_of(person, delivery))),
          text: setting(person, delivery).text(merged, mailbox),
          filled: Records::LetterFill.of_step(@step.id, [person.id])[person.id] || {},
          **MergedJson.write(merged, @moment.catalogue, unanswered: merging.unanswered[person.id])
        )
      end

      # @return [String] the letter as it reads, with what was put in marked
      def html(person)
        delivery = delivery_of(person)
        return delivery.html if delivery&.state == "sent"

        mailbox = mailbox_for(person, delivery)
        setting(person, delivery).marked(merging_for(person, delivery).call(person, mailbox), mailbox, @moment.catalogue)
      end

      private

      # As its row in the list has it.
      def state_of(delivery)
        return "planned" unless delivery

        Records::Delivery.where(Sequel[:deliveries][:id] => delivery.id).set_aside.empty? ? delivery.state : "set_aside"
      end

      def lacking(ids) =
        @lacking ||= @step.letter ? MayHaveGap.new(@step, @moment, Sender.of(@sequence, @moment).boxes).among(ids) : Set.new

      # Of the round they are in, or were in last.
      def delivery_of(person) = (member = member_of(person)) && Records::Delivery.first(step_id: @step.id, member_id: member.id)

      def line_of(person) = Records::PersonalLine.current(@step.id, [person.id]).first

      def mailbox_for(person, delivery) =
        delivery&.mailbox || Sender.mailbox_of(@sequence, person, @moment, sender: sender)

      def sender = @sender ||= Sender.of(@sequence, @moment)

      def version_of(person, delivery)
        return unless @step.other

        delivery&.version || (@sequence.draft? ? outlook.versions(@step)[person.id] : member_of(person)&.version_of(@step.id))
      end

      def member_of(person) = Records::Member.newest(@sequence.id, person.id)

      # Of a letter that is not written down yet.
      def reckoned(person)
        member = member_of(person)
        Ahead.new(@sequence, @moment).call([member], {person.id => person})[member.id][@step.id] if member&.state == "active"
      end

      def merging_for(person, delivery)
        version = version_of(person, delivery)
        Merging.new(letter_for(version), [person], @moment, step: @step, subject: @step.subject_of(version))
      end

      def letter_for(version) = @moment.letter_of(@step, version)

      def setting(person, delivery) = Typesetting.new(letter_for(version_of(person, delivery)), firm: @moment.firm)

      # Where a line of one's own may stand: after any block, named by its words.
      def places(letter)
        letter.document(:body).blocks.map { |block| Core::Letters::Summary.of(block, @moment.catalogue) }.reject(&:empty?)
      end

      # Records change; a letter that is out is shown as it was.
      def as_it_went(delivery)
        runs = [{kind: "text", text: delivery.subject, field: nil, label: nil, marks: [], href: nil}]
        {
          line: nil,
          line_after: nil,
          places: [],
          filled: {},
          subject: runs,
          preview: [],
          gaps: [],
          sides: [],
          line_lost: false,
          unanswered: nil,
          text: delivery.text
        }
      end

      def outlook = @outlook ||= Outlook.new(@sequence, @moment)
    end
  end
end
