# frozen_string_literal: true

module NimbleLetter
  module Web
    # A rehearsal as the contract has it: letters by day and mailbox, tasks by day and colleague, what moved and why, and who is left.
    class RehearsalJson
      # @param rehearse [Work::Rehearse]
      def initialize(rehearse, moment)
        @rehearse, @run, @moment = rehearse, rehearse.run, moment
      end

      # @return [Hash]
      def write
        {
          letters: @run.letters.size,
          people: (@run.letters.map(&:person_id) | @run.outs.map(&:person_id)).size,
          first_at: @run.letters.first&.at,
          last_at: @run.letters.last&.at,
          days: days,
          mailboxes: mailboxes,
          tasks: tasks,
          moved: @run.letters.filter_map(&:why).tally.map { |why, count| {why: why, letters: count} },
          steps: steps,
          finished: @run.outs.count { |out| out.reason.nil? },
          left: @run.outs.filter_map(&:reason).tally.map { |reason, count| {reason: reason, people: count} }
        }
      end

      # @return [Hash] one person's way
      def person(id)
        letters = @run.letters.select { |letter| letter.person_id == id }
        doings = @run.doings.select { |doing| doing.person_id == id }
        path = letters.map { |one| {step_id: one.step_id, at: one.at, wanted: one.wanted, why: one.why} } +
          doings.map { |one| {step_id: one.step.id, at: one.at, wanted: one.at, why: nil} }
        out = @run.outs.find { |one| one.person_id == id }
        {person_id: id, path: path.sort_by { |one| one[:at] }, out: out && {at: out.at, reason: out.reason}}
      end

      private

      def steps
        @run.letters.group_by(&:step_id)
          .map { |id, some| {step_id: id, letters: some.size, first_at: some.first.at, last_at: some.last.at} }
      end

      def days
        counts = @run.letters.map { |letter| [@moment.firm.today(letter.at), letter.box_id] }.tally
        counts.map { |(date, box), letters| {date: date, mailbox_id: box, letters: letters} }
      end

      def mailboxes
        @run.letters.map(&:box_id).uniq.map { |id| @rehearse.boxes.fetch(id) }
          .map { |box| {id: box.id, address: box.address, a_day: box.to_core.most_a_day} }
      end

      def tasks
        made = @run.doings.select { |doing| doing.step.is_a?(Core::Journey::Steps::Task) }
        made.map { |doing| [@moment.firm.today(doing.at), whose(doing)] }.tally
          .map { |(date, account), tasks| {date: date, account_id: account, tasks: tasks} }
      end

      def whose(doing) = doing.step.whose(@rehearse.owners[doing.person_id], @rehearse.boxes.fetch(doing.box_id).account_id)
    end
  end
end
