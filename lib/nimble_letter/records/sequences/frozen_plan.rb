# frozen_string_literal: true

module NimbleLetter
  module Records
    # The plan that members of a started sequence go by, under a number; never changed once it is made, but for
    # the name of a tag (decision 43).
    class FrozenPlan < Sequel::Model(:plans)
      extend JsonColumn

      json_column :tree, :letters

      many_to_one :sequence
      many_to_one :account

      # @param sequence [Sequence] as it is laid out now
      # @param plan [Core::Journey::Plan] of it
      # @param anew [Array<Integer>] letters that are taken as they are written now; the others stay as the plan before holds them
      # @param only_later [Boolean] whether the steps it inserts are only for people who arrive later
      # @return [FrozenPlan]
      def self.make(sequence, plan, at:, account_id:, anew: [], words_only: false, only_later: false)
        held = of(sequence.id)&.texts || {}
        letters = Letter.where(id: sequence.steps.flat_map(&:letter_ids).uniq)
        texts = letters.to_h { |letter| [letter.id, (held[letter.id] unless anew.include?(letter.id)) || LetterText.keep(letter)] }
        create(sequence_id: sequence.id, number: plan.number, tree: Core::Journey::PlanJson.write(plan), letters: texts,
          words_only: words_only, only_later: only_later, account_id: account_id, made_at: at)
      end

      # @param number [Integer, nil] nil: the one in effect
      # @return [FrozenPlan, nil] nil: of a draft
      def self.of(sequence_id, number = nil)
        plans = where(sequence_id: sequence_id)
        number ? plans.first(number: number) : plans.order(Sequel.desc(:number)).first
      end

      # @return [Hash{Integer=>Integer}] by letter, the number of its text
      def texts = (letters || {}).transform_keys(&:to_i)

      # @return [LetterText, nil] nil: what it says was never held
      def text_of(letter_id) = (@text_of ||= LetterText.where(id: texts.values).as_hash(:letter_id))[letter_id]

      # @return [Core::Journey::Plan]
      def to_core = Core::Journey::PlanJson.read(tree, number: number)
    end
  end
end
