# frozen_string_literal: true

require "set"

module NimbleLetter
  module Work
    # Letters of a sequence under way that are written otherwise by now than its plan holds them. They go out in their former words
    # until somebody lets the new ones take effect.
    class ChangedWords
      # to_come: people who will get the letter for certain; may_come: people who may come to it by a lane; gaps: those of to_come who
      # would have a gap in the new words, at_most: or fewer
      One = Struct.new(:letter, :to_come, :may_come, :gaps, :at_most, keyword_init: true)

      # @param sequence [Records::Sequence] one that was started
      def initialize(sequence, moment)
        @sequence, @moment = sequence, moment
      end

      # @return [Array<Records::Letter>]
      def letters
        @letters ||= begin
          held = Records::FrozenPlan.of(@sequence.id)
          ids = @sequence.letter_steps.flat_map(&:letter_ids).uniq & held.texts.keys
          Records::Letter.where(id: ids).order(:name, :id).all.select { |letter| held.text_of(letter.id).other_than?(letter) }
        end
      end

      # @return [Array<One>]
      def all = @all ||= letters.map { |letter| One.new(letter: letter, **outlook(letter)) }

      # @return [Set<Integer>] people who will or may get one of them
      def people = all.flat_map { |one| one.to_come + one.may_come }.to_set

      # @param named [Array<Hash>] letter_id, and version as the person saw it
      # @return [Array<Integer>] numbers of letters, as they may take effect
      # @raise [Invalid, Conflict]
      def taken(named)
        named.map do |one|
          letter = letters.find { |other| other.id == one["letter_id"] }
          raise Invalid.new("This letter says what its plan holds.", code: :same_words, at: "letters") unless letter
          next letter.id if letter.version == one["version"]

          raise Conflict.new("Somebody has written in “#{letter.name}” meanwhile.", hint: "Look at it, then let it take effect.",
            data: {letter_id: letter.id, version: letter.version})
        end
      end

      private

      def outlook(letter)
        steps = @sequence.letter_steps.select { |step| step.letter_ids.include?(letter.id) }
        gets = steps.to_h { |step| [step, LetterUse.who_gets(step, letter)] }
        to_come = gets.values.flatten.uniq
        may_come = steps.flat_map { |step| LetterUse.who_may_get(step, letter) }.uniq - to_come
        found = gets.map { |step, ids| gaps(step, ids) }
        {to_come: to_come, may_come: may_come, gaps: found.flat_map(&:first), at_most: !found.all?(&:last)}
      end

      # @return [Array(Array<Integer>, Boolean)] whose letter of a step would have a gap, and whether it is exactly they
      def gaps(step, ids)
        boxes = Sender.of(@sequence, @moment).boxes
        test = MayHaveGap.new(step, @moment.as_written, boxes)
        [test.among(ids).to_a, test.exact?]
      end
    end
  end
end
