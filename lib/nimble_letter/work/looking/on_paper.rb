# frozen_string_literal: true

module NimbleLetter
  module Work
    # What the cards of a draft say of the people it is for: how many may come to each step, and how many of its letters have a gap.
    # Counted by the database, by conditions, in one statement for some thousands of them; no letter is brought together for it.
    class OnPaper
      # people: nil when nobody knows before the letters are looked at. at_most: they may be fewer, because it depends on more.
      Gaps = Struct.new(:people, :at_most)
      SLICE = 10_000

      # @param sequence [Records::Sequence] a draft
      # @param plan [Core::Journey::Plan]
      # @param ids [Array<Integer>] who would get it
      def initialize(sequence, plan, ids, moment)
        @sequence, @plan, @ids, @moment = sequence, plan, ids, moment
      end

      # @param step_id [Integer]
      # @return [Integer] those who may come to it, as the conditions hold now
      def reaching(step_id) = if @plan.simple?
                                @ids.size
                              else
                                groups.sum { |group| group[:reach].include?(step_id) ? group[:people] : 0 }
                              end

      # @return [Array<Integer>] those who may come to a step, as the conditions hold now, in the order they were given
      def who_may_come(step_id)
        reaches = Hash.new { |all, group| all[group] = reach(group).include?(step_id) }
        coming = @ids.each_slice(SLICE).flat_map { |some|
          Records::Person.where(Sequel[:people][:id] => some).select(Sequel[:people][:id], *asked).naked.all
            .select { |row| reaches[row.except(:id)] }.map { |row| row[:id] }
        }.to_set
        @ids.select { |id| coming.include?(id) }
      end

      # @param step [Records::Step] with a letter
      # @return [Gaps]
      def gaps(step)
        lack = lacks.fetch(step)
        return Gaps.new(nil, true) unless lack.condition

        counted = groups.sum { |group| group[:reach].include?(step.id) ? group.fetch(:"gap_#{asked_once.index(lack.condition)}", 0) : 0 }
        Gaps.new(counted - filled(step), !lack.exact?)
      end

      private

      def lacks
        @lacks ||= begin
          boxes = Sender.of(@sequence, @moment).boxes
          @sequence.letter_steps.select(&:letter).to_h { |step| [step, MayHaveGap.new(step, @moment, boxes)] }
        end
      end

      # People of whom all conditions of the plan hold alike, with the steps they may come to.
      # @return [Array<Hash{Symbol=>Object}>] people, reach, and letters with a gap by what they ask
      def groups
        @groups ||= @ids.each_slice(SLICE).flat_map { |some| counted(some) }.each { |group| group[:reach] = reach(group) }
      end

      def counted(ids)
        Records::Person
          .where(Sequel[:people][:id] => ids)
          .select(*asked, Sequel.function(:count).*.as(:people), *gap_sums)
          .then { |people| asked.empty? ? people : people.group(*asked.map(&:alias)) }
          .naked.all.reject { |group| group[:people].zero? }
      end

      def asked = @plan.conditions.each_with_index.map { |condition, i| test(condition).as(:"asked_#{i}") }

      def gap_sums
        asked_once.each_with_index.map { |condition, i| Sequel.function(:sum, test(condition)).cast(:signed).as(:"gap_#{i}") }
      end

      # Letters often lack the same.
      def asked_once = @asked_once ||= lacks.each_value.map(&:condition).uniq - [nil, MayHaveGap::NOBODY]

      def test(condition) = Sequel.case({@moment.sql.read(@moment.parser.parse!(condition)) => 1}, 0)

      def reach(group)
        answers = @plan.conditions.each_with_index.to_h { |condition, i| [condition, group[:"asked_#{i}"] == 1] }
        Core::Journey::Reach.of(@plan, Core::Journey::Known.new(their_zone: @moment.firm.zone, seed: 0, answers: answers))
      end

      # Letters whose gaps somebody filled in by hand: the records lack these fields still.
      def filled(step)
        people = Records::LetterFill.of_step(step.id).keys & @ids
        return 0 if people.empty? || lacks.fetch(step).condition == MayHaveGap::NOBODY

        lacking = Records::Person.where(Sequel[:people][:id] => people).where(test(lacks.fetch(step).condition) => 1).all
        box = Sender.of(@sequence, @moment)
        merged = MergedStep.new(step, @moment).call(lacking.map { |one| [one, box.for(one), nil] })
        merged.each_value.count { |letter| letter.gaps.empty? }
      end
    end
  end
end
