# frozen_string_literal: true

module NimbleLetter
  module Work
    # A sequence on paper: who would get each letter when and from whom. The ready check, the stack and the start read
    # the same outlook, so their numbers cannot differ.
    class Outlook
      SLICE = 2000 # people who are read at once

      # @param audience [Hash] the sequence's own, or those who would join it now
      # @param joining [Boolean] whether it has started, so that who is in it already is passed over
      # @param guard [Boolean] whether those who were written to enough lately stay out; else their letters wait
      def initialize(sequence, moment, audience: sequence.audience, joining: false, guard: true)
        @sequence, @moment, @audience, @joining, @guard = sequence, moment, audience, joining, guard
      end

      # @return [Hash] see Core::Sieve.account
      def account = sieving.account

      # @return [Array<Integer>] who would get it, oldest record first
      def ids = @ids ||= sieving.would_get_it

      # @return [Array<Prospect>]
      def rows = @rows ||= first_rows(ids.size)

      # @return [Array<Prospect>] the first so many: none of them depends on those behind
      def first_rows(count)
        day_book = DayBook.new(@moment, plan)
        ids.first(count).each_slice(SLICE).flat_map do |some|
          people = Knowing.people(some, plan).values_at(*some)
          known = @moment.known_of(people, plan)
          people.map { |person| prospect(person, known[person.id], day_book) }
        end
      end

      def plan = @plan ||= @sequence.plan

      def mailboxes = rows.map(&:mailbox).compact.uniq

      def without_mailbox = rows.count { |row| row.mailbox.nil? }

      def by_mailbox = rows.group_by(&:mailbox).transform_values(&:size)

      # @param mailbox_id [Integer, nil] nil for those who would have none
      # @return [Sequel::Dataset] of people who would be written to from it
      def people_from(mailbox_id)
        theirs = rows.select { |row| row.mailbox&.id == mailbox_id }.map { |row| row.person.id }
        Records::Person.where(Sequel[:people][:id] => theirs)
      end

      # @return [Time, nil] nil when nobody would get anything
      def first_at = rows.filter_map(&:first_at).min

      def last_at = rows.filter_map { |row| row.passage.last&.last }.max

      # @return [Integer] to all of them together; whoever has not the date a step is about passes it by
      def letters = plan.every_letter? ? rows.size * plan.all.size : rows.sum { |row| row.passage.size }

      # @return [Hash{Integer=>Array<String>}] empty fields by person, for one step's letter
      def gaps(step)
        merged_where_it_may_lack(step).each_with_object({}) { |(id, letter), gaps| gaps[id] = letter.gaps if letter.gaps.any? }
      end

      # @return [Hash{Integer=>String}] "a" or "b" by person, where a step compares two
      def versions(step)
        return {} unless step.other

        before =
          (
            if @joining
              Records::Delivery.where(step_id: step.id).exclude(version: nil).group_and_count(:version).as_hash(:version, :count)
            else
              {}
            end
          )
        (@versions ||= {})[step.id] ||= Core::Letters::Split.of(step.id, ids, before: before)
      end

      # @return [Array<Prospect>] those who may come to a step
      def reaching(step) = rows.select { |row| row.reaches?(step) }

      # @param gaps [Integer] letters with a gap that were found
      # @return [String] see Seen
      def digest(gaps) = Seen.new(@sequence, ids).digest(gaps)

      # @return [Hash{Records::Step=>Integer}] letters with a gap
      def gaps_by_step = @gaps_by_step ||= @sequence.letter_steps.to_h { |step| [step, gaps(step).size] }

      # @return [Integer] of #letters, those with a gap and those that come after them: nobody gets the second letter before the first
      def waiting
        found = @sequence.letter_steps.to_h { |step| [step.id, gaps(step)] }
        concerned = found.each_value.flat_map(&:keys).to_set
        rows.select { |row| concerned.include?(row.person.id) }
          .sum { |row| row.passage.drop_while { |step, _| !found.fetch(step.id).key?(row.person.id) }.size }
      end

      private

      # Only those who may have a gap: most have none, and merging is the dearest part of a check.
      def merged_where_it_may_lack(step)
        (@may_lack ||= {})[step.id] ||= begin
          rows = reaching(step)
          some = MayHaveGap.new(step, @moment, mailboxes).among(rows.map { |row| row.person.id })
          MergedStep.new(step, @moment).call(entries(step, rows.select { |row| some.include?(row.person.id) }))
        end
      end

      def entries(step, rows)
        ids = rows.map { |row| row.person.id }
        people = ids.each_slice(SLICE).flat_map { |some| Records::Person.where(id: some).all }.to_h { |person| [person.id, person] }
        rows.map { |row| [people.fetch(row.person.id), row.mailbox, versions(step)[row.person.id]] }
      end

      def sieving = @sieving ||= @moment.sieving(@moment.audience(@audience), sequence_id: (@sequence.id if @joining), guard: @guard)

      def prospect(person, known, day_book)
        mailbox = sender.for(person)
        base, due = mailbox ? day_book.place_for(mailbox, known) : [@moment.now, nil]
        Prospect.new(person, mailbox, base, due, known, plan, @moment)
      end

      def sender = @sender ||= Sender.of(@sequence, @moment)
    end
  end
end
