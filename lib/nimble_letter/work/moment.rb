# frozen_string_literal: true

module NimbleLetter
  module Work
    # The instant, the firm and the colleague a piece of work is done for. Made once at the edge and handed in.
    class Moment
      # From so many people on, an act is one that asks for the password again.
      MANY = 1000

      # cause: number of the act on many records that this is part of (Records::ChangeSet), or nil
      attr_reader :now, :account, :lookups, :connection, :cause

      # @param now [Time] UTC, from the clock in use; to the second, as everything is kept
      # @param account [Records::Account, nil]
      # @param lookups [#ask] outside services
      # @param connection [String, nil] the address it is asked from
      # @param fresh [Boolean] whether the password was given lately; work that nobody asks for over the page needs none
      def initialize(now:, account: nil, firm: nil, lookups: Lookups::Unconnected, connection: nil, fresh: true)
        @now, @account, @firm, @lookups, @connection, @fresh = Time.at(now.to_i).utc, account, firm, lookups, connection, fresh
        @plans, @ladders, @calendars, @zones, @frozen, @letters = {}, {}, {}, {}, {}, {}
      end

      # Read once a moment, when it is asked for.
      # @return [Records::Firm]
      def firm = @firm ||= Records::Firm.current

      # @param time [Time] of something that is recorded at its own time
      # @return [Moment] then, with all that has been read
      def at(time)
        return self if time == now

        dup.tap { |other| other.instance_exec { @now, @sql, @facts = Time.at(time.to_i).utc, nil, nil } }
      end

      # @param set_id [Integer] of Records::ChangeSet
      # @return [Moment] of what follows from that act
      def because_of(set_id) = dup.tap { |other| other.instance_variable_set(:@cause, set_id) }

      # @raise [Forbidden] unless an admin asks
      def admin!
        return if account.nil? || account.admin?

        note("refused", about: "not an admin")
        raise Forbidden.new("Only an admin may do this.", code: :admins_only)
      end

      # @raise [Forbidden] unless the password was given lately
      def fresh!
        return if @fresh

        raise Forbidden.new(
          "This asks for your password again.",
          code: :password_again,
          hint: "You gave it more than an hour ago."
        )
      end

      # For the log of what matters to safety, see SafetyNote.
      def note(kind, **about) = SafetyNote.write(kind, who: account, connection: connection, **about)

      def today = firm.today(now)

      def calendar = @calendar ||= firm.calendar(now)

      def sql = @sql ||= Records::ConditionSql.new(now: now, today: today, me: account&.id)

      def memory = Core::Conditions::InMemory.new(now: now, today: today, me: account&.id)

      def facts = @facts ||= Records::Facts.new(today: today)

      # @return [Core::Fields::Catalogue] as it stands at this moment
      def catalogue = @catalogue ||= Records::FieldCatalogue.current

      # @return [Core::Conditions::Parser]
      def parser = Core::Conditions::Parser.new(catalogue)

      # @param habit [Core::Fields::Habit]
      # @return [Core::Fields::Taking] that knows the colleagues by number, name or address
      def taking(habit = Core::Fields::Habit.plain) = Core::Fields::Taking.new(habit: habit, reference: colleagues)

      # @return [Core::Journey::Machine]
      def machine = @machine ||= Core::Journey::Machine.new(calendar: calendar, our_zone: firm.zone)

      # @return [Core::Journey::Alike] the machine for a great many at once
      def alike = @alike ||= Core::Journey::Alike.new(machine)

      # @param plan [Core::Journey::Plan]
      # @return [Core::Journey::Ways] through it, for a great many
      def ways(plan) = (@ways ||= {}.compare_by_identity)[plan] ||= Core::Journey::Ways.new(alike, plan)

      # @return [Core::Calendar::WorkCalendar] with the holidays where they live
      def calendar_of(person) = person.country ? (@calendars[person.country] ||= firm.calendar(now, person.country)) : calendar

      # @param people [Array<Records::Person>]
      # @param plan [Core::Journey::Plan]
      # @return [Hash{Integer=>Core::Journey::Known}] by person, what is known of them besides what happened
      def known_of(people, plan) = Knowing.new(plan, self).of_people(people)

      # @return [Core::Journey::Known]
      def known(person, plan) = known_of([person], plan)[person.id]

      # @return [TZInfo::Timezone] their own, or ours
      def zone_of(person)
        name = person&.time_zone || firm.time_zone
        @zones[name] ||= Core::Calendar::Zones.fetch(name)
      end

      # Read once a moment: a plan with a number does not change.
      # @param number [Integer, nil] nil: the one that is in effect
      # @return [Core::Journey::Plan]
      def plan_of(sequence_id, number = nil)
        @plans[[sequence_id, number]] ||=
          number ? frozen_plan(sequence_id, number).to_core : Records::Sequence[sequence_id].plan
      end

      # Read once a moment.
      # @param step [Records::Step]
      # @param version [String, nil] "a" or "b"
      # @param plan [Integer, nil] number of the one whose member gets it; nil: the one in effect
      # @return [Records::Letter, nil] in the words that go out by that plan; of a draft as it is written now
      def letter_of(step, version = nil, plan: nil)
        letter = step.letter_of(version)
        return letter if letter.nil? || @as_written || step.sequence.draft?

        held_letter(letter, step.sequence_id, plan)
      end

      # @param letter [Records::Letter]
      # @return [Records::Letter] see #letter_of
      def held_letter(letter, sequence_id, plan)
        @letters[[letter.id, sequence_id, plan]] ||= frozen_plan(sequence_id, plan)&.text_of(letter.id)&.to_letter(letter) || letter
      end

      # @return [Moment] for which every letter reads as it is written now, whatever a plan holds
      def as_written = dup.tap { |other| other.instance_variable_set(:@as_written, true) }

      # Read once a moment.
      # @return [Core::Statuses::Ladder] of that sequence's members
      def ladder_of(sequence_id) = @ladders[sequence_id] ||= Records::StatusSet.ladders([sequence_id])[sequence_id]

      # @return [Records::Audience] that uses no filter the colleague may not see
      def audience(json)
        among = account ? Records::SavedFilter.seen_by(account) : Records::SavedFilter.dataset
        Records::Audience.new(json, sql: sql, parser: method(:parser), among: among)
      end

      # @return [Records::Audience] of something that all colleagues see
      # @raise [Invalid] when it uses a filter that somebody keeps to themselves
      def shared_audience(json) = audience(json).tap { |said| SharedFilters.hold!(said) }

      # @param sequence_id [Integer, nil] a started one that people would join
      # @param guard [Boolean] whether who was written to enough lately stays out
      def sieving(audience, sequence_id: nil, guard: true)
        reasons = Core::Sieve.reasons(guard: (firm.guard if guard), sequence_id: sequence_id)
        Records::Sieving.new(audience.people, sql: sql, reasons: reasons, sequence_id: sequence_id, few: audience.tree.nil?,
          parser: method(:parser))
      end

      private

      def frozen_plan(sequence_id, number) =
        @frozen[[sequence_id, number]] ||= Records::FrozenPlan.of(sequence_id, number)

      def colleagues
        @colleagues ||= begin
          all = Records::Account.all
          by_words = all.flat_map { |one| [one.name, one.email].compact.map { |words| [Core::Fold.call(words), one.id] } }.to_h
          ->(given) { given.is_a?(Integer) ? all.find { |one| one.id == given }&.id : by_words[Core::Fold.call(given.to_s)] }
        end
      end
    end
  end
end
