# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Those who wait until a mailbox's pace and hours let the next letter go, in the order in which they came; those who have heard from
      # us go before all others. Some stand in it by themselves; of a crowd it is enough to know who is its next, since those behind need
      # not be called to wait. It takes its turn in a Rehearsal after all who come in the same second.
      class Line
        # Somebody by themselves. key: of Turns.key
        Single = Struct.new(:key, :one)
        private_constant :Single

        # Those in it who have heard from us, or those who have not.
        class Rank
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

        attr_reader :box
        # slot: of Turns, as of a Traveller; awake: whether its turn will come; upto: whoever of its crowds came by then had to wait
        attr_accessor :slot, :awake, :upto

        # @param box [Sending::Room::Box]
        def initialize(box)
          @box, @heard, @others, @upto = box, Rank.new, Rank.new, 0
        end

        # See Crowd#kind.
        def kind = :line

        # Its turn comes last in its second.
        def had_letter = false

        # @param heard [Boolean]
        # @return [Rank]
        def rank(heard) = heard ? @heard : @others

        # @return [Boolean] whether anybody waits then; the next of a crowd who comes in this very second may find that nobody does
        def waits?(at)
          return true if @heard.singles? || @others.singles?

          key = Turns.key_of(0, (at > @upto) ? at : @upto + 1)
          @heard.before?(key) || @others.before?(key)
        end

        # @return [Rank] the one from which somebody who waits goes next
        def serving(at) = @heard.first(at) ? @heard : @others

        # @return [Array<Paced>] all crowds, which wait no longer
        def disband = @heard.disband + @others.disband
      end
    end
  end
end
