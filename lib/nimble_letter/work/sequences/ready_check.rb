# frozen_string_literal: true

module NimbleLetter
  module Work
    # What a sequence still needs before it can start, and the numbers that starting it means.
    class ReadyCheck
      # blocking: nothing starts while it stands. fix: where it is mended.
      Remark = Struct.new(:code, :words, :blocking, :step_id, :count, keyword_init: true)

      # A month: who starts something for more people than their mailbox sends letters in it is told.
      SURPRISING_DAYS = 20

      def initialize(sequence, moment)
        @sequence, @moment = sequence, moment
      end

      # @return [Hash] ready, remarks, what starting would do (people, letters, first_at, last_at, mailboxes; gaps: letters with a gap,
      #   of whatever lane; waiting: of letters, those that wait until it is filled; joining: people who join at once by its
      #   rules; keeps: what has one letter leave later than at once, see LeavesWhen), and seen: a digest of what was looked at
      def call
        found = remarks
        ready = found.none?(&:blocking)
        # Without it nothing starts before all of it has been looked at again.
        {ready: ready, remarks: found.map { |remark| remark.to_h.compact }, **numbers, seen: (outlook&.digest(gaps) if ready)}
      end

      # @return [Integer] letters with a gap
      def gaps = outlook ? outlook.gaps_by_step.values.sum : 0

      # @param gaps [Boolean] whether the letters are looked at as well, by far the dearest part
      # @return [Array<Remark>]
      def remarks(gaps: true)
        plan = [*plan_remarks, *firm_remarks, *audience_remarks]
        outlook ? [*plan, *mailbox_remarks, *(gap_remarks if gaps), *date_remarks, *hours_remarks, *room_remarks] : plan
      end

      # @return [Outlook, nil] nil while there is nothing to look out on
      def outlook
        return @outlook if defined?(@outlook)

        whom = audience && (audience.said? || joined_by_rules?)
        @outlook = (steps.any? && whom && @sequence.letter_steps.all?(&:letter)) ? Outlook.new(@sequence, @moment) : nil
      end

      # @param step_id [Integer]
      # @return [Array<Integer>] people whom that letter would never reach, see NeverLeaves
      def never(step_id)
        step = @sequence.letter_steps.find { |one| one.id == step_id }
        (step && outlook) ? NeverLeaves.new(outlook, @moment).rows(step).map { |row| row.person.id } : []
      end

      # @param code [String] of what keeps one letter
      # @return [Array<Integer>] people whose letter leaves later for that, see LeavesWhen
      def kept(code) = (outlook && OneLetter.of?(@sequence)) ? leaves.people(code) : []

      # @return [Array<Integer>] people who join at once by its rules
      def joining = at_once.ids

      private

      def at_once = @at_once ||= JoinsAtOnce.new(@sequence, @moment, besides: outlook&.ids || [])

      def steps = @sequence.steps

      def audience
        @audience ||= @moment.audience(@sequence.audience)
      rescue NotFound
        nil
      end

      # Nobody need be in it from the start where people join by themselves.
      def joined_by_rules? = @joined_by_rules ||= Records::JoinRule.where(sequence_id: @sequence.id, live: true).any?

      def plan_remarks
        return [block("no_steps", "There is no letter in it yet.")] if steps.empty?
        return [block("end_past", end_past)] if over?
        return [block("no_steps", "There is no letter in it yet, and nothing that is done.")] if steps.all? { |step| step.kind == "fork" }

        steps.flat_map { |step| StepRemarks.new(step, @moment).call }
      end

      def over? = @sequence.ends_at && @sequence.ends_at <= @moment.now

      def end_past
        day = Core::Calendar::Zones.local(@moment.firm.zone, @sequence.ends_at).first
        "Its end date, #{day.strftime("%-d %B %Y")}, is past: everybody would leave at once. Choose a later one, or none."
      end

      # Said once, however many letters it is true of.
      def firm_remarks
        letter = steps.filter_map(&:letter).first or return []
        LetterChecks
          .new(letter, @moment)
          .blocking
          .select { |advice| advice.part == "firm" }
          .map { |advice| block(advice.code, advice.words) }
      end

      def audience_remarks
        return [block("filter_gone", "The filter of its audience is gone. Choose another.")] unless audience
        return [block("rule_gone", "Somebody would join by a filter that is gone. Change that rule, or take it away.")] if at_once.gone?
        return [] if joined_by_rules?
        return [block("no_audience", "Nobody is chosen yet.")] unless audience.said?
        return [block("nobody", "Nobody in its audience would get it.")] if (outlook&.ids || @moment.sieving(audience).would_get_it).empty?

        []
      end

      def mailbox_remarks
        unknown = outlook.without_mailbox
        remarks =
          (
            if unknown.positive?
              [block("no_mailbox", "#{people(unknown)} would have no mailbox to come from. Choose one to fall back on.", nil, unknown)]
            else
              []
            end
          )
        remarks +
          outlook
            .mailboxes
            .reject(&:proved?)
            .map { |box| block("mailbox_not_proved", "#{box.address} is not proved yet. Enter its code under Settings.") }
      end

      # One gap never stops the rest; where everybody has one in the same letter, there is no rest.
      def gap_remarks
        outlook.gaps_by_step.filter_map do |step, count|
          next if count.zero?

          letters = (count == 1) ? "1 letter of “#{step.letter.name}” has" : "#{count} letters of “#{step.letter.name}” have"
          words = "#{letters} a gap. Fill it, or give the field a fallback."
          Remark.new(code: "gaps", words: words, blocking: count == outlook.ids.size, step_id: step.id, count: count)
        end
      end

      def date_remarks
        return [] if over? || outlook.letters.positive? || outlook.ids.empty? || !outlook.plan.simple?

        [block("no_time", "Nobody would get a letter: none of them has the dates that the steps stand around.")]
      end

      def hours_remarks
        never = NeverLeaves.new(outlook, @moment)
        @sequence.letter_steps.filter_map do |step|
          rows = never.rows(step)
          next if rows.empty?

          boxes = rows.map { |row| row.mailbox.address }.uniq.join(", ")
          if rows.size == outlook.rows.size
            next block("never", "“#{step.letter.name}” would never leave: #{boxes} sends nothing at the hours it is to go. " \
              "Change its hours, or the letter’s.", step)
          end

          clock = " by their clock" if step.timing.zone == "theirs"
          words = "“#{step.letter.name}” would never reach #{people(rows.size)}: #{boxes} sends nothing at the hours it is to go" \
                  "#{clock}. Change its hours, or the letter’s."
          Remark.new(code: "never_for_some", words: words, blocking: false, step_id: step.id, count: rows.size)
        end
      end

      # What nobody expects who has the plan's days before their eyes: it does not stand in the way.
      def room_remarks
        each = outlook.plan.all.grep(Core::Journey::Steps::Letter).size
        outlook.by_mailbox.filter_map do |box, people|
          next unless box

          days = (people * each).fdiv(box.to_core.most_a_day).ceil
          next if days <= SURPRISING_DAYS

          until_day = @moment.calendar.after(@moment.today, days)
          words = "Up to #{people * each} letters from #{box.address}, which sends #{box.to_core.most_a_day} a day, take #{days} " \
                  "working days: the last goes about #{until_day.strftime("%-d %B %Y")}."
          Remark.new(code: "takes_long", words: words, blocking: false, count: days)
        end
      end

      def numbers
        return {people: 0, letters: 0, gaps: 0, waiting: 0, joining: 0, mailboxes: [], keeps: []} unless outlook

        {people: outlook.ids.size, letters: outlook.letters, gaps: gaps, waiting: outlook.waiting, joining: joining.size, **times,
         mailboxes: outlook.by_mailbox.map { |box, count| {id: box&.id, address: box&.address, name: box&.name, people: count} }}
      end

      def leaves = @leaves ||= LeavesWhen.new(@sequence, outlook, @moment)

      # Of one letter to the minute.
      def times
        return {first_at: outlook.first_at, last_at: outlook.last_at, keeps: []} unless OneLetter.of?(@sequence)

        {first_at: leaves.first_at, last_at: leaves.last_at, keeps: leaves.keeps.map { |keep| keep.to_h.compact }}
      end

      def people(count) = (count == 1) ? "1 person" : "#{count} people"

      def block(code, words, step = nil, count = nil) =
        Remark.new(code: code, words: words, blocking: true, step_id: step&.id, count: count)
    end
  end
end
