# frozen_string_literal: true

module NimbleLetter
  module Work
    # Whose letter of a step has to be merged to know whether it has a gap: a few, found by the conditions of Lacking, or all when the
    # letter asks for something that no record knows.
    class MayHaveGap
      # What is there for everybody.
      ALWAYS = %w[sequence.name today.date today.weekday today.month].freeze
      SENDER = "sender."
      NOBODY = {"any" => []}.freeze

      # @param step [Records::Step]
      # @param moment [Moment]
      # @param mailboxes [Array<Records::Mailbox>] that its letters come from
      def initialize(step, moment, mailboxes)
        @step, @moment, @mailboxes = step, moment, mailboxes
      end

      # @param ids [Array<Integer>] people
      # @return [Set<Integer>] those of them whose letter may have a gap
      def among(ids)
        return ids.to_set unless condition
        return Set.new if condition == NOBODY

        test = @moment.sql.read(@moment.parser.parse!(condition))
        ids.each_slice(5000).flat_map { |some|
          Records::Person.where(Sequel[:people][:id] => some).where(test).select_map(Sequel[:people][:id])
        }.to_set
      end

      # @return [Hash, nil] of those whose letter may have a gap; nil when nobody can know beforehand
      def condition
        return @condition if defined?(@condition)

        conditions = letters.map { |letter| conditions_of(letter) }
        @condition = ({"any" => conditions.flatten.uniq} if conditions.all?)
      end

      # @return [Boolean] whether everybody for whom the condition holds has a gap
      def exact? = letters.one? && lacking(letters.first).by_field.each_value.none? { |_, left_open| left_open }

      private

      def letters = @letters ||= %w[a b].map { |version| @moment.letter_of(@step, version) }.uniq(&:id)

      def conditions_of(letter)
        lacking = lacking(letter)
        return if lacking.not_known.any? { |key| !there?(key) } || (lacking.by_field.any? && deal?(lacking))

        lacking.by_field.values.map(&:first)
      end

      def lacking(letter) =
        (@lacking ||= {})[letter.id] ||=
          Lacking.new([*letter.documents(@moment.catalogue), *subjects], @moment, for_deal: letter.for_deal?)

      # The other subject, where half of them get one.
      def subjects = [@step.subject_of("b")].compact.map { |json| Core::Letters::Document.new(json, @moment.catalogue) }

      # A deal that is there may still lack what is asked of it.
      def deal?(lacking) = lacking.by_field.keys.any? { |key| @moment.catalogue[key]&.subject == "deal" }

      def there?(key)
        return true if ALWAYS.include?(key)

        key.start_with?(SENDER) && @mailboxes.all? { |box| box && box.sender_facts[key].to_s != "" }
      end
    end
  end
end
