# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Those in a Line who have heard from us, or those who have not.
      class Rank
        # Somebody by themselves. key: of Turns.key
        Single = Struct.new(:key, :one)
        private_constant :Single

        def initialize
          @singles, @crowds = [], []
        end

        # @param one [Traveller]
        # @param at [Integer] when they came, in seconds since 1970
        def add(one, at)
          key = Turns.key(at, one)
          @singles.insert(@singles.bsearch_index { |other| other.key > key } || @singles.size, Single.new(key, one))
        end

        # @param crowd [Paced] of which somebody waits
        def join(crowd)
          @crowds << crowd
        end

        # @param key [Integer] of Turns.key
        # @return [Boolean] whether anybody came before that
        def before?(key) = !@crowds.empty? && @crowds.any? { |crowd| crowd.next_key < key }

        def singles? = @singles.any?

        # @param at [Integer] seconds since 1970
        # @return [Traveller, Paced, nil] whose turn it is, or whose next's, of those who have come by then
        def first(at)
          single, crowd = @singles.first, @crowds.min_by(&:next_key)
          source = (single && (crowd.nil? || single.key < crowd.next_key)) ? single : crowd
          return if source.nil? || Turns.time(key_of(source)) > at

          source.equal?(single) ? single.one : crowd
        end

        # The first by themselves waits no longer.
        def shift = @singles.shift

        # @param before [Integer] of Turns.key
        # @return [Array<Paced>] those of which somebody came before that
        def crowds(before) = @crowds.select { |crowd| crowd.next_key < before }

        # @return [Integer, nil] Turns.key of the first by themselves
        def first_key = @singles.first&.key

        # A crowd of which nobody is left.
        def leave(crowd)
          @crowds.delete(crowd)
        end

        # @return [Array<Paced>] all of them, which wait no longer
        def disband = @crowds.tap { @crowds = [] }

        private

        def key_of(source) = source.is_a?(Single) ? source.key : source.next_key
      end
    end
  end
end
