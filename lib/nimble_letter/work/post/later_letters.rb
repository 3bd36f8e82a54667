# frozen_string_literal: true

module NimbleLetter
  module Work
    # Letters of the next days that are not written down yet, since the one before is not out: they follow soon enough behind it.
    class LaterLetters
      # A step cannot come sooner behind the one before than this, by unit: a day may be short by its window, a working day is one.
      AT_LEAST = {"minutes" => 60, "hours" => 3600, "days" => 86_400, "working_days" => 86_400, "weeks" => 7 * 86_400,
                  "months" => 28 * 86_400}.freeze
      # So many members of a sequence are reckoned: the strip is a picture, and asked for every few seconds.
      MOST = 5000

      def initialize(moment) = @moment = moment

      # @param to [Time] up to then
      # @param bin_seconds [Integer]
      # @return [Hash{Integer=>Integer}] letters by bin
      def bins(to, bin_seconds)
        Records::Sequence.where(state: "running").all.each_with_object(Hash.new(0)) do |sequence, bins|
          times = @moment.plan_of(sequence.id).simple? ? of_row(sequence, to) : of_tree(sequence, to)
          times.each { |at| bins[at.to_i / bin_seconds] += 1 }
        end
      end

      private

      # @return [Array<Integer>] steps behind which the next comes within that time
      def quick(sequence, to)
        sequence.steps.each_cons(2).filter_map do |step, following|
          soonest = (following.counted == "step") ? [following.amount - 1, 0].max * AT_LEAST.fetch(following.unit) : 0
          step.id if @moment.now + soonest <= to
        end
      end

      # Whoever is asked again by then may come to a letter; as things stand, that is.
      # @return [Array<Time>]
      def of_tree(sequence, to)
        letters = Records::Delivery.where(sequence_id: sequence.id, state: %w[due claimed]).where { due_at <= to }
        due = letters.not_waiting.select(:member_id)
        soon = Records::Member.active.where(sequence_id: sequence.id, paused_at: nil)
          .where(Sequel.|({id: due}, Sequel[:due_at] <= to)).limit(MOST).all
        written = Records::Delivery.where(member_id: soon.map(&:id), state: Records::Delivery::STILL_DUE).select_hash(:member_id, :step_id)
        ahead(sequence, soon, to).flat_map { |member, times| times.except(written[member]).values }
      end

      def ahead(sequence, members, to)
        people = Records::Person.where(id: members.map(&:person_id)).as_hash(:id)
        Ahead.new(sequence, @moment, upto: to).call(members, people)
      end

      def of_row(sequence, to)
        steps = quick(sequence, to)
        return [] if steps.empty?

        due = Records::Delivery.where(sequence_id: sequence.id, step_id: steps, state: %w[due claimed]).where { due_at <= to }
        members = Records::Member.active.where(id: due.not_waiting.limit(MOST).select(:member_id).from_self).all
        ahead(sequence, members, to).values.flat_map { |times| times.values.drop(1) }
      end
    end
  end
end
