# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who may join a sequence by a rule, having been in it before or not, see Core::Journey::Joining.
    class Again
      Joining = Core::Journey::Joining

      # @param rule [Records::JoinRule]
      def initialize(sequence, moment, rule)
        @sequence, @moment, @rule = sequence, moment, rule
      end

      # @param ids [Array<Integer>] people
      # @return [Array<Integer>] those of them who may
      def among(ids)
        last = Records::Member.where(sequence_id: @sequence.id, person_id: ids).order(:round).as_hash(:person_id)
        (ids - had_this_year(ids)).select do |id|
          before = last[id]
          before &&= Joining::Last.new(before.state, before.joined_at)
          Joining.may?(again, @rule.gap_days, before, @moment.now)
        end
      end

      private

      # Each year is a round, whatever else the rule says.
      def again = yearly? ? "every" : @rule.again

      def yearly? = @rule.kind == "yearly"

      def had_this_year(ids)
        return [] unless yearly?

        since = @moment.now - Joining::YEAR_SECONDS
        Records::Member.where(rule_id: @rule.id, person_id: ids).where { joined_at > since }.distinct.select_map(:person_id)
      end
    end
  end
end
