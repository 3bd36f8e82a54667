# frozen_string_literal: true

module NimbleLetter
  module Work
    # The instant, the firm and the colleague a piece of work is done for. Made once at the edge and handed in.
    class Moment
      attr_reader :now, :firm, :account, :lookups

      # @param now [Time] UTC, from the clock in use
      # @param account [Records::Account, nil]
      # @param lookups [#ask] outside services
      def initialize(now:, account: nil, firm: Records::Firm.current, lookups: Lookups::Unconnected)
        @now, @account, @firm, @lookups = now.getutc, account, firm, lookups
      end

      def today = firm.today(now)

      def calendar = firm.calendar(now)

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
      def machine(plan) = Core::Journey::Machine.new(plan, calendar: calendar, our_zone: firm.zone)

      # Read once a moment: the plan of a running sequence does not change.
      # @return [Core::Journey::Plan]
      def plan_of(sequence_id) = (@plans ||= {})[sequence_id] ||= Records::Sequence[sequence_id].plan

      def audience(json) = Records::Audience.new(json, sql: sql)

      # @param sequence_id [Integer, nil] a started one that people would join
      def sieving(audience, sequence_id: nil)
        Records::Sieving.new(audience.people, sql: sql, reasons: Core::Sieve.reasons(guard: firm.guard, sequence_id: sequence_id))
      end

      private

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
