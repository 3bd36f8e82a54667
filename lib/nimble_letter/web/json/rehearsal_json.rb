# frozen_string_literal: true

module NimbleLetter
  module Web
    # A rehearsal as the contract has it: letters by day and mailbox, tasks by day and colleague, what moved and why, and what it is like
    # for one of those who go the same way.
    class RehearsalJson
      MOST_LIVES = 200

      # @param rehearsed [Work::Rehearsed]
      def initialize(rehearsed)
        @rehearsed = rehearsed
        @letters, @outs = rehearsed.letters, rehearsed.outs
      end

      # @param key [String] under what it is kept
      # @return [Hash]
      def write(key)
        {
          run: key,
          letters: @letters.size,
          people: @rehearsed.people.size,
          first_at: @letters.first&.at,
          last_at: @letters.last&.at,
          rates: rates,
          days: days,
          mailboxes: mailboxes,
          tasks: @rehearsed.tasks.map { |(date, account), tasks| {date: date, account_id: account, tasks: tasks} },
          colleagues: colleagues,
          moved: @rehearsed.moved.map { |why, (letters, later)| {why: why, letters: letters, later: later} },
          steps: steps,
          finished: @outs.count { |out| out.reason.nil? },
          left: @outs.filter_map(&:reason).tally.map { |reason, count| {reason: reason, people: count} },
          ways: @rehearsed.ways.size,
          lives: lives
        }
      end

      # @return [Hash] one person's way
      def person(id)
        out = @rehearsed.out(id)
        {person_id: id, path: path(id), out: out && {at: out.at, reason: out.reason}}
      end

      private

      # Of a hundred letters, on the whole.
      def rates
        shares = @rehearsed.rates
        %i[opened clicked replied bounced].to_h { |kind| [kind, shares[kind].to_f] }
          .then { |all| all.merge(clicked: all[:opened] * all[:clicked]) }
      end

      def days
        @rehearsed.days.map do |(date, box), letters|
          {date: date, mailbox_id: box, letters: letters, besides: @rehearsed.taken.fetch([date, box], 0)}
        end
      end

      def steps
        @letters.group_by(&:step_id)
          .map { |id, some| {step_id: id, letters: some.size, first_at: some.first.at, last_at: some.last.at} }
      end

      def mailboxes
        @letters.map(&:box_id).uniq.map { |id| @rehearsed.boxes.fetch(id) }
          .map { |box| {id: box.id, address: box.address, a_day: box.to_core.most_a_day} }
      end

      def colleagues
        ids = @rehearsed.tasks.keys.filter_map(&:last).uniq
        Records::Account.where(id: ids).order(:name, :id).map { |account| {id: account.id, name: account.name} }
      end

      # The first of each way, with how many go the same.
      def lives
        ways = @rehearsed.ways.first(MOST_LIVES)
        names = Records::Person.where(id: ways.map { |way| way.people.first }).as_hash(:id)
        ways.map do |way|
          id = way.people.first
          {**person(id), name: names[id]&.name || "Somebody who is gone", people: way.people.size, way: way.key}
        end
      end

      def path(id) = @rehearsed.path(id).map { |one| {step_id: one.step_id, at: one.at, wanted: one.wanted, why: one.why} }
    end
  end
end
