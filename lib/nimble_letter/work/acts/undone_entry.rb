# frozen_string_literal: true

module NimbleLetter
  module Work
    # What becomes of one record when one of the acts that changed it is undone. A part that a later act changed once more keeps that
    # act's value; the later act now goes back to what was before this one, so that acts can be undone in any order. A later act that
    # found it so already holds it as well.
    class UndoneEntry
      # Of where somebody stands, what does not tell whether it is as the act left it: a change of plan sets it for everybody.
      FOLLOWS = %w[moved].freeze

      # @return [Hash{String=>Object}] what the record is to hold, see RecordState
      attr_reader :restores

      # @param entry [Records::ChangeEntry]
      # @param held [Hash{String=>Object}] what the record holds now
      # @param later [Array<Records::ChangeEntry>] of acts on the same record that are not undone, oldest first
      # @param said [Array<String>] by which keys somebody has said "no" since, by a letter's way out for one
      def initialize(entry, held, later, said: [])
        @entry, @held, @later, @said = entry, held, later, said
        @restores, @stays = {}, false
        entry.after.each_key { |key| undo(key) }
      end

      # @return [Boolean] whether a part stays as somebody made it since
      def stays? = @stays

      private

      def undo(key)
        parts = parts(key)
        return if handed_on?(key, parts)
        return put(key, merged(@held[key], @entry.before[key], parts)) if as_it_was_left?(key, parts)

        @stays ||= !Core::Fields::GoingWith::KEYS.include?(key)
      end

      # A "no" that has got another source since stays.
      def as_it_was_left?(key, parts) = same?(@held[key], @entry.after[key], parts) && !@said.include?(key)

      def put(key, value)
        @restores[key] = value unless value == @held[key] && !key.start_with?(RecordState::PLACE)
      end

      # @return [Array<String>, nil] what the act changed of where somebody stands; nil: the value is one
      def parts(key)
        before, after = @entry.before[key], @entry.after[key]
        return unless key.start_with?(RecordState::PLACE) && before.is_a?(Hash) && after.is_a?(Hash)

        after.keys.reject { |name| before[name] == after[name] }
      end

      # @return [Boolean] whether a later act changed this part from what this one made of it
      def handed_on?(key, parts)
        next_one = @later.find { |other| other.after&.key?(key) && changes?(other, key, parts) } or return false
        return false unless same?(next_one.before[key], @entry.after[key], parts)

        next_one.before = next_one.before.merge(key => merged(next_one.before[key], @entry.before[key], parts))
        # What changed nothing is now what holds this.
        next_one.state = "done"
        true
      end

      def changes?(other, key, parts) = parts.nil? || !same?(other.before[key], other.after[key], parts)

      def same?(one, other, parts)
        return one == other unless parts && one.is_a?(Hash) && other.is_a?(Hash)

        one.values_at(*(parts - FOLLOWS)) == other.values_at(*(parts - FOLLOWS))
      end

      def merged(held, before, parts) = (parts && held.is_a?(Hash)) ? held.merge(before.slice(*parts)) : before
    end
  end
end
