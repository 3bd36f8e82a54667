# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who joins as soon as a sequence runs: those of whom one of its rules is true already, where somebody said that they join too.
    class JoinsAtOnce
      # @param rule [Records::JoinRule]
      # @return [Sequel::Dataset] of people of whom it is true when it begins to listen
      # @raise [NotFound] when its filter is gone
      def self.true_of(rule, moment) = moment.audience(RuleAudience.of(rule)).people

      # @param sequence [Records::Sequence] a draft
      # @param besides [Array<Integer>] people who are in it from the start
      def initialize(sequence, moment, besides: [])
        @sequence, @moment, @besides = sequence, moment, besides
      end

      # @return [Array<Integer>] people who may be written to, each once
      def ids
        @ids ||= rules.empty? ? [] : @moment.sieving(@moment.audience(whom)).would_get_it - @besides
      end

      # @return [Boolean] whether a live rule speaks of a filter that is gone
      def gone? = live.any? { |rule| !there?(rule) }

      private

      # Whom a single rule means is asked as it is said: to name very many one by one takes seconds.
      def whom
        return RuleAudience.of(rules.first) if rules.one?

        {"people" => rules.flat_map { |rule| self.class.true_of(rule, @moment).unordered.select_map(Sequel[:people][:id]) }.uniq}
      end

      def rules = @rules ||= live.select { |rule| rule.now_too && there?(rule) }

      def live = @live ||= Records::JoinRule.where(sequence_id: @sequence.id, live: true).order(:id).all

      def there?(rule)
        @moment.audience(RuleAudience.of(rule))
        true
      rescue NotFound
        false
      end
    end
  end
end
