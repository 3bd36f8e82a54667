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
      def people
        Records::Person.where(Sequel[:people][:id] => sent.select(:person_id)).exclude(Sequel[:people][:id] => reacted.select(:person_id))
      end

      # @return [Hash{Integer=>Integer}] people by step, each step by itself
      def by_step
        some = reacted.distinct.select(:step_id, :person_id).as(:reacted)
        quiet = sent.left_join(some, step_id: Sequel[:deliveries][:step_id], person_id: Sequel[:deliveries][:person_id])
        quiet.where(Sequel[:reacted][:person_id] => nil).group(Sequel[:deliveries][:step_id])
          .select_hash(Sequel[:deliveries][:step_id], Sequel.function(:count, Sequel[:deliveries][:person_id]).distinct.as(:count))
      end

      # @return [Hash] a condition that may give the same people
      def condition
        about = @scope.slice(:sequence_id, :letter_id).transform_keys(&:to_s)
        reactions = REACTIONS.map { |kind| {"activity" => kind, **about} }
        {"all" => [{"activity" => "had_letter", **about}, {"not" => {"any" => reactions}}]}
      end

      private

      def sent = Records::Delivery.where(state: "sent").where(within(:deliveries)).exclude(Sequel[:deliveries][:step_id] => nil)

      def reacted = Records::Event.by_people.where(kind: REACTIONS).where(within(:events)).exclude(step_id: nil)

      # The letter of a step may be another by now: what was sent says which it was.
      def within(table)
        keys = @scope.key?(:step_id) ? @scope.except(:letter_id) : @scope
        keys.transform_keys { |name| Sequel[table][name] }
      end
    end
  end
end
