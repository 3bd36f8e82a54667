# frozen_string_literal: true

require "set"

module NimbleLetter
  module Work
    # Which of a step's letters have a gap, a line that has lost its place, a service without an answer, or read which passage. Of some
    # hundred letters all are looked at; of more the database is asked by conditions, unless only the letters themselves can tell.
    class StackMarks
      LOOKED_AT = 1000

      # gaps, lost, unanswered: people. gaps_at_most: whether they may be fewer. asked: every condition the letter asks; sides: by
      # condition, of whom it holds. merged: every letter, where all were looked at.
      attr_reader :gaps, :gaps_at_most, :lost, :unanswered, :asked, :sides, :merged

      # @param entries [Array<StackList::Entry>] whose letters are still to go
      # @yield [Array<StackList::Entry>] entries
      # @yieldreturn [Array(Hash{Integer=>Core::Letters::Merged}, Hash{Integer=>String})]
      def self.of(step, entries, moment, &merging) = new(step, entries, moment, merging)

      def initialize(step, entries, moment, merging)
        @step, @entries, @moment, @merging = step, entries, moment, merging
        @letters = Core::Letters::Split::VERSIONS.map { |version| moment.letter_of(step, version) }.uniq(&:id)
        @asked = @letters.flat_map(&:documents).flat_map(&:conditions).uniq
        look_at_all? ? look : ask
      end

      private

      # What an outside service says stands in no record.
      def look_at_all? = @entries.size <= LOOKED_AT || Core::Letters::Lookups.needed(@letters.flat_map(&:documents)).any?

      def look
        @merged, unanswered = @merging.call(@entries)
        @unanswered = unanswered.keys.to_set
        @gaps, @gaps_at_most = with { |letter| letter.gaps.any? }, false
        @lost = with(&:line_lost)
        @sides = @asked.map { |condition| with { |letter| letter.sides[condition] } }
      end

      def with(&) = @merged.select { |_, letter| yield(letter) }.keys.to_set

      def ask
        ids = @entries.map(&:person_id)
        @unanswered = Set.new
        @gaps, @gaps_at_most = gaps_among(ids)
        personal = Records::PersonalLine.of_step(@step.id).keys & ids
        @lost = looked_at(personal).select { |_, letter| letter.line_lost }.keys.to_set
        shown_to = ShownTo.new(@asked, ids.to_h { |id| [id, {}] }, @moment)
        @sides = @asked.map { |condition| ids.select { |id| shown_to.holds?(condition, id) }.to_set }
      end

      # Where they are few they are looked at; what somebody filled in by hand is.
      def gaps_among(ids)
        test = MayHaveGap.new(@step, @moment, Sender.of(@step.sequence, @moment).boxes)
        may = test.among(ids)
        few = (may.size <= LOOKED_AT) ? may.to_a : Records::LetterFill.of_step(@step.id).keys.select { |id| may.include?(id) }
        none = looked_at(few).select { |_, letter| letter.gaps.empty? }.keys
        [may - none, few.size < may.size && !test.exact?]
      end

      def looked_at(ids)
        wanted = ids.to_set
        wanted.empty? ? {} : @merging.call(@entries.select { |entry| wanted.include?(entry.person_id) }).first
      end
    end
  end
end
