# frozen_string_literal: true

module NimbleLetter
  module Work
    # The instant, the firm and the colleague a piece of work is done for. Made once at the edge and handed in.
    class Moment
      attr_reader :now, :firm, :account

      # @param now [Time] UTC, from the clock in use
      # @param account [Records::Account, nil]
      def initialize(now:, account: nil, firm: Records::Firm.current)
        @now, @account, @firm = now.getutc, account, firm
      end

      def today = firm.today(now)

      def calendar = firm.calendar(now)

      def sql = @sql ||= Records::ConditionSql.new(now: now, today: today, me: account&.id)

      def facts = @facts ||= Records::Facts.new(today: today)

      # @return [Core::Journey::Machine]
      def machine(plan) = Core::Journey::Machine.new(plan, calendar: calendar, our_zone: firm.zone)

      # Read once a moment: the plan of a running sequence does not change.
      # @return [Core::Journey::Plan]
      def plan_of(sequence_id) = (@plans ||= {})[sequence_id] ||= Records::Sequence[sequence_id].plan

      def audience(json) = Records::Audience.new(json, sql: sql)

      def sieving(audience) = Records::Sieving.new(audience.people, sql: sql)
    end
  end
end
