# frozen_string_literal: true

module NimbleLetter
  module Work
    # Whose letter of a step has to be merged to know whether it has a gap: a few, found by the conditions of Lacking, or all when the
    # letter asks for something that no record knows.
    class MayHaveGap
      # What is there for everybody.
      ALWAYS = %w[sequence.name today.date today.weekday today.month].freeze
      SENDER = "sender."

      # @param step [Records::Step]
      # @param moment [Moment]
      # @param mailboxes [Array<Records::Mailbox>] that its letters come from
      def initialize(step, moment, mailboxes)
        @step, @moment, @mailboxes = step, moment, mailboxes
      end

      # @param ids [Array<Integer>] people
      # @return [Set<Integer>] those of them whose letter may have a gap
      def among(ids)
        letters = %w[a b].map { |version| @step.letter_of(version) }.uniq(&:id)
        letters.map { |letter| of(letter, ids) }.inject(:|)
      end

      private

      def of(letter, ids)
        lacking = Lacking.new([*letter.documents, *subjects], @moment, for_deal: letter.for_deal?)
        return ids.to_set if lacking.not_known.any? { |key| !there?(key) } || (lacking.by_field.any? && deal?(lacking))

        conditions = lacking.by_field.values.map(&:first)
        return Set.new if conditions.empty?

        test = @moment.sql.read(@moment.parser.parse!({"any" => conditions}))
        ids.each_slice(5000).flat_map { |some|
          Records::Person.where(Sequel[:people][:id] => some).where(test).select_map(Sequel[:people][:id])
        }.to_set
      end

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
