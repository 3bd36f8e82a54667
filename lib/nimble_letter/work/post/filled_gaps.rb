# frozen_string_literal: true

module NimbleLetter
  module Work
    # Letters that were set aside for a gap are due again as soon as it is filled: in the record, for this letter only, or by words of the
    # letter that ask for less. The database is asked whose records lack nothing any more; only their letters are merged, in the words
    # that would go out.
    class FilledGaps
      # Letters of a step of which no record tells whether they have a gap; those behind are tried again by hand.
      NOT_KNOWN = 1000

      # @param moment [Moment]
      # @return [Integer] letters that are due again
      def self.round(moment) = new(moment).call

      def initialize(moment) = @moment = moment

      def call
        waiting.group_by { |_, delivery| delivery.step_id }.sum { |step_id, pairs| again(Records::Step[step_id], pairs) }
      end

      private

      # @return [Array(Records::SetAside, Records::Delivery)]
      def waiting
        pairs = Records::SetAside.with_gap.resting.order(:id).eager(delivery: :mailbox).all.map { |aside| [aside, aside.delivery] }
        pairs.select { |_, delivery| delivery.state == "failed" }
      end

      def again(step, pairs)
        deliveries = pairs.map(&:last)
        some = filled_perhaps(step, deliveries)
        filled = full(step, deliveries.select { |one| some.include?(one.person_id) })
        pairs.count { |aside, delivery| filled.include?(delivery.id) && TakeUp.new(aside, @moment).again }
      end

      # @return [Set<Integer>] people
      def filled_perhaps(step, deliveries)
        ids = deliveries.map(&:person_id)
        test = MayHaveGap.new(step, @moment, deliveries.map(&:mailbox).uniq)
        not_known = (test.condition || asks_services?(step)) ? [] : ids.first(NOT_KNOWN)
        (ids - test.among(ids).to_a + Records::LetterFill.of_step(step.id, ids).keys + not_known).to_set
      end

      # An outside service is asked when a letter is to go, not every few seconds.
      def asks_services?(step)
        letters = Core::Letters::Split::VERSIONS.map { |version| @moment.letter_of(step, version) }
        Core::Letters::Lookups.needed(letters.flat_map(&:documents)).any?
      end

      # @return [Array<Integer>] numbers of letters without a gap
      def full(step, deliveries)
        plans = Records::Member.where(id: deliveries.map(&:member_id)).select_hash(:id, :plan)
        deliveries.group_by { |one| [one.letter, one.version, plans[one.member_id]] }.flat_map do |(letter, version, plan), alike|
          people = Records::Person.where(id: alike.map(&:person_id)).as_hash(:id)
          words = @moment.held_letter(letter, step.sequence_id, plan)
          merging = Merging.new(words, people.values, @moment, step: step, subject: step.subject_of(version))
          alike.select { |one| merging.call(people.fetch(one.person_id), one.mailbox).gaps.empty? }.map(&:id)
        end
      end
    end
  end
end
