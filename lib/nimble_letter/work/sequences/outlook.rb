# frozen_string_literal: true

module NimbleLetter
  module Work
    # A sequence on paper: who would get each letter when and from whom. The ready check, the stack and the start read
    # the same outlook, so their numbers cannot differ.
    class Outlook
      # base: when the first step is counted from. passage: Array of [Step, Time] in order, if they do nothing. reach: numbers of the
      # steps they may come to
      Row = Struct.new(:person, :mailbox, :base, :passage, :reach)

      # @param audience [Hash] the sequence's own, or those who would join it now
      # @param joining [Boolean] whether it has started, so that who is in it already is passed over
      def initialize(sequence, moment, audience: sequence.audience, joining: false)
        @sequence, @moment, @audience, @joining = sequence, moment, audience, joining
      end

      # @return [Hash] see Core::Sieve.account
      def account = sieving.account

      # @return [Array<Records::Person>] who would get it, oldest record first
      def people
        @people ||= begin
          ids = sieving.would_get_it
          ids.each_slice(2000).flat_map { |some| Records::Person.where(id: some).order(:id).all }
        end
      end

      # @return [Array<Row>]
      def rows
        @rows ||= begin
          day_book = DayBook.new(@moment, plan)
          people.each_slice(2000).flat_map do |some|
            known = @moment.known_of(some, plan)
            some.map { |person| row(person, known[person.id], day_book) }
          end
        end
      end

      def plan = @plan ||= @sequence.plan

      def mailboxes = rows.map(&:mailbox).compact.uniq

      def without_mailbox = rows.count { |row| row.mailbox.nil? }

      def by_mailbox = rows.group_by(&:mailbox).transform_values(&:size)

      # @param mailbox_id [Integer, nil] nil for those who would have none
      # @return [Sequel::Dataset] of people who would be written to from it
      def people_from(mailbox_id)
        ids = rows.select { |row| row.mailbox&.id == mailbox_id }.map { |row| row.person.id }
        Records::Person.where(Sequel[:people][:id] => ids)
      end

      # @return [Time, nil] nil when nobody would get anything
      def first_at = rows.filter_map { |row| row.passage.first&.last }.min

      def last_at = rows.filter_map { |row| row.passage.last&.last }.max

      # @return [Integer] to all of them together; whoever has not the date a step is about passes it by
      def letters = rows.sum { |row| row.passage.size }

      # @return [Hash{Integer=>Array<String>}] empty fields by person, for one step's letter
      def gaps(step)
        letters = @merging&.key?(step.id) ? merged(step) : merged_where_it_may_lack(step)
        letters.each_with_object({}) { |(id, letter), gaps| gaps[id] = letter.gaps if letter.gaps.any? }
      end

      # @return [Hash{Integer=>Core::Letters::Merged}] everybody's letter of one step
      def merged(step) = merging(step).last

      # @return [Hash{Integer=>String}] by person, why an outside service had nothing to say
      def unanswered(step) = merging(step).first.unanswered

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
        (@versions ||= {})[step.id] ||= Core::Letters::Split.of(step.id, people.map(&:id), before: before)
      end

      # @return [Array<Row>] those who may come to a step
      def reaching(step) = rows.select { |row| row.reach.nil? || row.reach.include?(step.id) }

      # @return [Hash{Records::Step=>Integer}] letters with a gap
      def gaps_by_step = @sequence.letter_steps.to_h { |step| [step, gaps(step).size] }

      private

      # @return [Array(MergedStep, Hash)]
      def merging(step)
        (@merging ||= {})[step.id] ||= begin
          all = MergedStep.new(step, @moment)
          [all, all.call(entries(step, reaching(step)))]
        end
      end

      # As #merged, but only those who may have a gap: most have none, and merging is the dearest part of a check.
      def merged_where_it_may_lack(step)
        (@may_lack ||= {})[step.id] ||= begin
          rows = reaching(step)
          some = MayHaveGap.new(step, @moment, mailboxes).among(rows.map { |row| row.person.id })
          MergedStep.new(step, @moment).call(entries(step, rows.select { |row| some.include?(row.person.id) }))
        end
      end

      def entries(step, rows) = rows.map { |row| [row.person, row.mailbox, versions(step)[row.person.id]] }

      def sieving = @sieving ||= @moment.sieving(@moment.audience(@audience), sequence_id: (@sequence.id if @joining))

      def row(person, known, day_book)
        mailbox = sender.for(person)
        base = mailbox ? day_book.base_for(mailbox, known) : @moment.now
        passage = Core::Journey::Path.new(@moment.machine, plan, known).letters(plan.entrance(base), base)
        Row.new(person, mailbox, base, passage, (Core::Journey::Reach.of(plan, known) unless plan.simple?))
      end

      def sender = @sender ||= Sender.new(@sequence.sender)
    end
  end
end
