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

      # @return [Hash] totals, and a row for each letter: person, marks, when; every one of them, however many
      def list
        rows = @sequence.draft? ? planned_rows : member_rows
        {
          total: rows.size,
          with_gaps: rows.count { |row| row[:gaps].any? },
          personal: rows.count { |row| row[:personal] },
          lost: rows.count { |row| row[:line_lost] },
          unanswered: rows.count { |row| row[:unanswered] },
          conditions: conditions(rows),
          rows: rows
        }
      end

      # Somebody whose letter shows what the step says, one without a gap if one of the first has none; nobody's letter is merged for it.
      # @return [Hash, nil] person_id, name, and the total of letters
      def reader
        ids = @sequence.draft? ? outlook.ids : @sequence.members_dataset.order(:person_id).select_map(:person_id)
        some = ids.first(FIRST)
        lacking = MayHaveGap.new(@step, @moment, Sender.of(@sequence, @moment).boxes).among(some)
        person = Records::Person[some.find { |id| !lacking.include?(id) } || ids.first] or return
        {person_id: person.id, name: person.name, total: ids.size}
      end

      # @param person [Records::Person]
      # @return [Hash] the merged letter and its sender; of a draft, its time stands in the list only, which has worked out all of them
      def letter(person)
        delivery = delivery_of(person)
        mailbox = mailbox_for(person, delivery)
        common = {
          person_id: person.id,
          mailbox: mailbox && {address: mailbox.address, name: mailbox.name},
          state: delivery&.state || "planned",
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
          places: places(@step.letter_of(version_of(person, delivery))),
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

      # Of the round they are in, or were in last.
      def delivery_of(person) = (member = member_of(person)) && Records::Delivery.first(step_id: @step.id, member_id: member.id)

      def line_of(person) = Records::PersonalLine.current(@step.id, [person.id]).first

      def mailbox_for(person, delivery) =
        delivery&.mailbox || (member_of(person)&.mailbox unless @sequence.draft?) || sender.for(person)

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
        Merging.new(@step.letter_of(version), [person], @moment, step: @step, subject: @step.subject_of(version))
      end

      def setting(person, delivery) = Typesetting.new(@step.letter_of(version_of(person, delivery)), firm: @moment.firm)

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

      def planned_rows
        merged = outlook.merged(@step)
        versions = outlook.versions(@step)
        entries =
          outlook.reaching(@step).map do |row|
            [row.person, row.passage.find { |step, _| step.id == @step.id }&.last, "planned", versions[row.person.id]]
          end
        rows_for(entries, merged, outlook.unanswered(@step))
      end

      # Everybody who was or is in it: with the letter that is written down, or as it is reckoned, or passed by.
      def member_rows
        members = Records::Member.where(sequence_id: @sequence.id).order(:person_id, :round).all
        people = Records::Person.where(id: members.map(&:person_id)).as_hash(:id)
        entries = entries_of(members, people)
        merging = MergedStep.new(@step, @moment)
        merged = merging.call(to_merge(members, entries))
        rows_for(entries, merged, merging.unanswered)
      end

      # @return [Array<Array(Records::Person, Time, String, String)>] person, time, state, version
      def entries_of(members, people)
        written = Records::Delivery.where(step_id: @step.id).select(:member_id, :state, :due_at, :sent_at, :version).as_hash(:member_id)
        to_come = members.select { |member| member.state == "active" && !written.key?(member.id) }
        times = Ahead.new(@sequence, @moment).call(to_come, people)
        members.map do |member|
          delivery, at = written[member.id], times.dig(member.id, @step.id)
          next [people[member.person_id], delivery.sent_at || delivery.due_at, delivery.state, delivery.version] if delivery

          [people[member.person_id], at, (at || may_come?(member)) ? "planned" : "skipped", (member.version_of(@step.id) if @step.other)]
        end
      end

      # Some lanes are taken only when something happens, and some letters wait for a nod.
      def may_come?(member)
        return false unless member.state == "active" && !@moment.plan_of(@sequence.id, member.plan).simple?

        @moment.plan_of(@sequence.id, member.plan).possibly(member.step_id).include?(@step.id)
      end

      # A letter that is out has no gaps any more: it was not sent with one.
      def to_merge(members, entries)
        mailboxes = Records::Mailbox.eager(:account).all.to_h { |box| [box.id, box] }
        still = [*Records::Delivery::STILL_DUE, "planned"]
        members.zip(entries).filter_map do |member, (person, _, state, version)|
          [person, mailboxes[member.mailbox_id], version] if still.include?(state)
        end
      end

      def rows_for(entries, merged, unanswered)
        companies = Records::Company.where(id: entries.map { |person, *| person.company_id }.compact.uniq).select_hash(:id, :name)
        personal = Records::PersonalLine.of_step(@step.id)
        entries.map do |person, at, state, version|
          letter = merged[person.id]
          {
            person_id: person.id,
            name: person.name,
            company: companies[person.company_id],
            gaps: MergedJson.gaps(letter&.gaps || [], @moment.catalogue),
            personal: personal.key?(person.id),
            line_lost: letter&.line_lost || false,
            sides: letter ? letter.sides.select { |_, holds| holds }.keys.map { |condition| asked.index(condition) } : [],
            unanswered: unanswered.key?(person.id),
            version: version,
            goes_at: at,
            state: state
          }
        end
      end

      # Every condition the letter asks, in words, with how many see what is for them.
      def conditions(rows)
        asked.each_with_index.map do |condition, i|
          {index: i, words: Sentences.new(@moment).of(condition), people: rows.count { |row| row[:sides].include?(i) }}
        end
      end

      def asked =
        @asked ||=
          Core::Letters::Split::VERSIONS
            .map { |version| @step.letter_of(version) }
            .uniq(&:id)
            .flat_map(&:documents)
            .flat_map(&:conditions)
            .uniq
    end
  end
end
