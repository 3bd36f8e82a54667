# frozen_string_literal: true

module NimbleLetter
  module Work
    # What a rehearsal came to: letters by day and mailbox, tasks by day and colleague, what goes later than it was due, and the
    # different ways people go, each with those who go it.
    class Rehearsed
      Task = Core::Journey::Steps::Task
      # Days behind one another that are counted together.
      Span = Struct.new(:from, :to) do
        # @param day [Integer] see Core::Calendar::Zones.number
        def cover?(day) = (from.nil? || day >= number(from)) && (to.nil? || day <= number(to))

        private

        def number(date) = Core::Calendar::Zones.number(date)
      end
      # steps: [step_id, ...] in their order; out: reason, nil at the end, "on" for whoever is still on the way; people: ids
      Way = Struct.new(:key, :steps, :out, :people)

      # @return [Integer] of the sequence that was rehearsed
      attr_reader :sequence_id
      # @return [Core::Rehearsing::Assumption::Rates]
      attr_reader :rates
      # @return [Hash{Integer=>Records::Mailbox}]
      attr_reader :boxes

      # @param run [Core::Rehearsing::Rehearsal] run to its end
      # @param boxes [Hash{Integer=>Records::Mailbox}]
      # @param owners [Hash{Integer=>Integer}] by person
      # @param put_off [Array<Integer>] people who begin on a later day, since their mailbox is full before
      # @param taken [Hash{Array(Date, Integer)=>Integer}] letters of all else by day and mailbox
      # @param firm [Records::Firm] in whose days is counted
      def initialize(run, sequence_id:, rates:, boxes:, owners:, put_off:, taken:, firm:)
        @letters, @doings, @outs = run.letters, run.doings, run.outs
        @sequence_id, @rates, @boxes, @owners, @put_off, @taken = sequence_id, rates, boxes, owners, put_off, taken
        @days_of = Core::Calendar::DayNumbers.new(firm.zone)
      end

      attr_reader :letters, :outs, :taken

      # @return [Array<Integer>] of people
      def people = @people ||= (@letters.map(&:person_id) | @doings.map(&:person_id) | @outs.map(&:person_id))

      # @return [Hash{Array(Date, Integer)=>Integer}] letters by day and mailbox
      def days = @days ||= by_day(@letters, &:box_id)

      # @return [Hash{Array(Date, Integer)=>Integer}] by day and colleague, nil for nobody
      def tasks = @tasks ||= by_day(made) { |doing| whose(doing) }

      # @return [Hash{Symbol=>Array(Integer, Integer)}] by what kept them: letters, and how many of them a day or more
      def moved
        kept = @letters.select(&:why).group_by(&:why).transform_values { |some| [some.size, some.count { |one| later?(one) }] }
        return kept if @put_off.empty?

        {full: kept.fetch(:full, [0, 0]).map { |letters| letters + @put_off.size }}.merge(kept.except(:full))
      end

      # @return [Array<Way>] the one that most go first
      def ways
        @ways ||= people.group_by { |id| [steps_of(id), out_of(id)] }
          .map { |(steps, out), ids| Way.new(Digest::SHA256.hexdigest([steps, out].inspect)[0, 16], steps, out, ids) }
          .sort_by { |way| [-way.people.size, way.key] }
      end

      # @param id [Integer] of a person
      # @return [Array<Core::Rehearsing::Letter, Core::Rehearsing::Rehearsal::Doing>] in the order of time
      def path(id) = paths.fetch(id, [])

      # @return [Core::Rehearsing::Rehearsal::Out, nil]
      def out(id) = (@by_person ||= @outs.to_h { |one| [one.person_id, one] })[id]

      # @param reason [String, nil] for which they leave it; nil: at its end
      # @return [Array<Integer>] people
      def people_out(reason) = @outs.select { |one| one.reason&.to_s == reason }.map(&:person_id)

      # @return [Array<Integer>] each once
      def people_with_a_task = made.map(&:person_id).uniq

      # @param letters [Boolean] those who get one; else those for whom there is a task
      # @param whose [Integer, nil] mailbox or colleague
      # @param span [Span]
      # @param why [Symbol, nil] what kept their letter
      # @return [Array<Integer>] people, each once
      def people_with(letters:, whose:, span:, why: nil)
        return made.select { |one| whose(one) == whose && span.cover?(day(one)) }.map(&:person_id).uniq unless letters

        among = @letters.select { |one| (whose.nil? || one.box_id == whose) && span.cover?(day(one)) }
        return among.map(&:person_id).uniq unless why

        kept = among.select { |one| one.why == why && (why != :full || later?(one)) }.map(&:person_id)
        (kept + ((why == :full) ? @put_off : [])).uniq
      end

      private

      # @return [Integer] see Core::Calendar::Zones.number
      def day(one) = @days_of.at(one.seconds)

      # @return [Hash{Array(Date, Object)=>Integer}] in the order in which they come
      def by_day(some)
        counts = Hash.new { |all, day| all[day] = Hash.new(0) }
        some.each { |one| counts[day(one)][yield(one)] += 1 }
        counts.flat_map { |day, of| of.map { |what, count| [[Core::Calendar::Zones.day(day), what], count] } }.to_h
      end

      def made = @made ||= @doings.select { |doing| doing.step.is_a?(Task) }

      def whose(doing) = doing.step.whose(@owners[doing.person_id], @boxes.fetch(doing.box_id).account_id)

      def later?(letter) = letter.seconds != letter.due && day(letter) > @days_of.at(letter.due)

      # Both come in the order of time.
      def paths
        @paths ||= begin
          all = @doings.empty? ? @letters : (@letters + @doings).sort_by(&:seconds)
          all.group_by(&:person_id)
        end
      end

      def steps_of(id) = path(id).map(&:step_id)

      def out_of(id)
        one = out(id)
        one ? one.reason : "on"
      end
    end
  end
end
