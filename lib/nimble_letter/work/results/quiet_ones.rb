# frozen_string_literal: true

module NimbleLetter
  module Work
    # Those who had a letter and neither opened it, nor clicked, nor replied; what machines did does not count.
    class QuietOnes
      REACTIONS = Core::Journey::Happenings::REACTIONS

      # @param scope [Hash{Symbol=>Integer}] of sequence_id, step_id and letter_id: of which letters it is asked
      def initialize(**scope)
        @scope = scope.compact
      end

      # @return [Sequel::Dataset] of people; of several letters those who reacted to none of them
      def people = Records::Person.where(Sequel[:people][:id] => quiet(:person_id).select(:person_id))

      # @return [Integer] people, as #people has them
      def count = quiet(:person_id).from_self.count

      # @return [Hash{Integer=>Integer}] people by step, each step by itself
      def by_step = quiet(:step_id, :person_id).from_self.group_and_count(:step_id).as_hash(:step_id, :count)

      # @return [Hash] a condition that may give the same people
      def condition
        about = @scope.slice(:sequence_id, :letter_id).transform_keys(&:to_s)
        reactions = REACTIONS.map { |kind| {"activity" => kind, **about} }
        {"all" => [{"activity" => "had_letter", **about}, {"not" => {"any" => reactions}}]}
      end

      private

      # Of those who had more than one, all that was heard of them together.
      def quiet(*each)
        reacted = Sequel.function(:max, Sequel[:heard].sql_number & Core::Results::Heard.bits(*REACTIONS))
        sent = Sequel.function(:max, Sequel.case({{state: "sent"} => 1}, 0))
        letters.group(*each).having(reacted => 0, sent => 1).select(*each)
      end

      # The letter of a step may be another by now: what was sent says which it was.
      def letters = Records::Delivery.where(@scope.key?(:step_id) ? @scope.except(:letter_id) : @scope).naked
    end
  end
end
