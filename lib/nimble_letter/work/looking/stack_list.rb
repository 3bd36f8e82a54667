# frozen_string_literal: true

module NimbleLetter
  module Work
    # The letters of one step as a list, a page of it at a time, with the numbers of all. What a page shows is merged; what is counted
    # over very many is asked of the database, see StackMarks.
    class StackList
      ROWS = 200
      # member: nil before the start. state: of a delivery, "set_aside", "planned" or "skipped"
      Entry = Struct.new(:person_id, :member, :state, :version)
      # One that waits for its gap is meant to go, whatever became of it so far.
      STILL_TO_GO = [*Records::Delivery::STILL_DUE, "planned", "set_aside"].freeze

      # @param step [Records::Step]
      def initialize(step, moment)
        @step, @sequence, @moment = step, step.sequence, moment
      end

      # @param only [String] "all", "gaps", "personal", "lost", "unanswered", "a", "b", "side-0" or "other-0"
      # @param from [Integer] place of the first row
      # @return [Hash] numbers of all letters, and a page of those that are asked for
      def call(only: "all", from: 0)
        shown = entries.select { |entry| shown?(entry, only) }
        {total: entries.size, **counts, conditions: conditions, shown: shown.size, from: from, rows: rows(shown[from, ROWS] || [])}
      end

      # @param after [Integer] a place in the list of all
      # @return [Integer, nil] place of the next letter with a gap, round and round
      def next_gap(after)
        places = entries.each_index.select { |i| marks.gaps.include?(entries[i].person_id) }
        later, before = places.partition { |i| i > after }
        (later + before).each_slice(ROWS) do |some|
          merged = merged(some.map { |i| entries[i] })
          found = some.find { |i| merged[entries[i].person_id]&.gaps&.any? }
          return found if found
        end
        nil
      end

      private

      def entries = @entries ||= @sequence.draft? ? planned : of_members

      def planned
        versions = outlook.versions(@step)
        ids = outlook.plan.simple? ? outlook.ids : OnPaper.new(@sequence, outlook.plan, outlook.ids, @moment).who_may_come(@step.id)
        ids.map { |id| Entry.new(id, nil, "planned", versions[id]) }
      end

      def of_members
        written = Records::Delivery.where(step_id: @step.id).select_hash(:member_id, %i[state version])
        Records::Member.where(sequence_id: @sequence.id).order(:person_id, :round).all.map do |member|
          state, version = written[member.id]
          version = member.version_of(@step.id) if state.nil? && @step.other
          state = "set_aside" if waiting.include?(member.id)
          Entry.new(member.person_id, member, state || (may_come?(member) ? "planned" : "skipped"), version)
        end
      end

      # Some lanes are taken only when something happens, and some letters wait for a nod.
      def may_come?(member)
        return false unless member.state == "active" && member.step_id

        (@ahead ||= {})[[member.plan, member.step_id]] ||=
          @moment.plan_of(@sequence.id, member.plan).possibly(member.step_id).include?(@step.id) ? :yes : :no
        @ahead[[member.plan, member.step_id]] == :yes
      end

      def outlook = @outlook ||= Outlook.new(@sequence, @moment)

      def marks = @marks ||= StackMarks.of(@step, to_go, @moment) { |some| merging(some) }

      def to_go = entries.select { |entry| to_go?(entry) }

      def to_go?(entry) = STILL_TO_GO.include?(entry.state)

      def waiting = @waiting ||= Records::Delivery.where(step_id: @step.id).set_aside.select_map(:member_id).to_set

      def personal = @personal ||= Records::PersonalLine.of_step(@step.id)

      def counts
        versions = @step.other ? entries.group_by(&:version).transform_values(&:size) : {}
        {with_gaps: marks.gaps.size, gaps_at_most: marks.gaps_at_most, personal: entries.count { |one| personal.key?(one.person_id) },
         lost: marks.lost.size, unanswered: marks.unanswered.size, versions: {a: versions["a"] || 0, b: versions["b"] || 0}}
      end

      # Every condition the letter asks, in words, with how many see what is for them.
      def conditions
        marks.asked.each_with_index.map { |one, i| {index: i, words: Sentences.new(@moment).of(one), people: marks.sides[i].size} }
      end

      def shown?(entry, only)
        case only
        when "all" then true
        when "personal" then personal.key?(entry.person_id)
        when "gaps", "lost", "unanswered" then marks.public_send(only).include?(entry.person_id)
        when "a", "b" then entry.version == only
        else side?(entry, *only.split("-"))
        end
      end

      def side?(entry, kind, index)
        side = marks.sides[index.to_i] or return false
        side.include?(entry.person_id) == (kind == "side")
      end

      # @return [Hash{Integer=>Core::Letters::Merged}] by person; a letter that is out has no gaps any more: it was not sent with one
      def merged(page)
        return marks.merged if marks.merged

        letters, @unanswered = merging(page.select { |entry| to_go?(entry) })
        letters
      end

      # @return [Array(Hash{Integer=>Core::Letters::Merged}, Hash{Integer=>String})] and why a service had nothing to say, by person
      def merging(entries)
        people = Records::Person.where(id: entries.map(&:person_id)).as_hash(:id)
        boxes = Records::Mailbox.eager(:account).all.to_h { |box| [box.id, box] }
        merging = MergedStep.new(@step, @moment)
        all = entries.map do |entry|
          person = people.fetch(entry.person_id)
          [person, entry.member ? boxes[entry.member.mailbox_id] : sender.for(person), entry.version]
        end
        [merging.call(all), merging.unanswered]
      end

      def sender = @sender ||= Sender.of(@sequence, @moment)

      def rows(page)
        merged = merged(page)
        people = Records::Person.where(id: page.map(&:person_id)).as_hash(:id)
        companies = Records::Company.where(id: people.each_value.map(&:company_id).compact.uniq).select_hash(:id, :name)
        times = @sequence.draft? ? planned_times(page) : member_times(page, people)
        page.map do |entry|
          person = people.fetch(entry.person_id)
          row(entry, merged[person.id], times[entry]).merge(person_id: person.id, name: person.name, company: companies[person.company_id])
        end
      end

      def row(entry, letter, at)
        {
          gaps: MergedJson.gaps(letter&.gaps || [], @moment.catalogue),
          personal: personal.key?(entry.person_id),
          line_lost: letter&.line_lost || false,
          sides: letter ? letter.sides.select { |_, holds| holds }.keys.map { |condition| marks.asked.index(condition) } : [],
          unanswered: marks.unanswered.include?(entry.person_id) || (@unanswered || {}).key?(entry.person_id),
          version: entry.version,
          goes_at: at,
          state: entry.state
        }
      end

      # Each takes its place in the mailboxes' days behind those before it.
      def planned_times(page)
        return {} if page.empty?

        upto = outlook.ids.bsearch_index { |id| id >= page.last.person_id }
        rows = outlook.first_rows(upto + 1).to_h { |row| [row.person.id, row] }
        page.to_h { |entry| [entry, rows[entry.person_id].passage.find { |step, _| step.id == @step.id }&.last] }
      end

      def member_times(page, people)
        ids = page.map { |entry| entry.member.id }
        out = Records::Delivery.where(step_id: @step.id, member_id: ids).select_hash(:member_id, %i[sent_at due_at])
        to_come = page.map(&:member).select { |member| member.state == "active" && !out.key?(member.id) }
        ahead = Ahead.new(@sequence, @moment).call(to_come, people)
        page.to_h { |entry| [entry, out[entry.member.id]&.compact&.first || ahead.dig(entry.member.id, @step.id)] }
      end
    end
  end
end
