# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Whose turn it is in a Rehearsal: in the order of time; of the same second, whoever has heard from us goes before others, and then
      # in the order in which they were given. Nobody waits for more than one turn. Times are in seconds since 1970. The turns of a day
      # are put in order at once, as numbers, which is what makes it quick; whoever is called once more on that day is fitted in.
      class Turns
        DAY = 86_400
        # So many bits of a number tell whose turn it is.
        BITS = 24
        MASK = (1 << BITS) - 1
        # gathering: crowds that are lined up when the day begins
        Day = Struct.new(:numbers, :gathering)
        private_constant :DAY, :BITS, :MASK, :Day

        # @param after [Integer] seconds after a stretch begins
        # @param one [Traveller]
        # @return [Integer] a number that puts those of a crowd in order
        def self.number(after, one) = (after << BITS + 1) | one.slot

        # @param number [Integer] of .number
        # @return [Integer] seconds after a stretch begins
        def self.after(number) = number >> BITS + 1

        # @param number [Integer] of .number
        # @param opens [Integer] when that stretch begins
        # @return [Integer] a number that puts those of all crowds in order
        def self.key_of(number, opens) = (opens << BITS + 1) + number

        # @param at [Integer] seconds since 1970
        # @return [Integer] see .key_of
        def self.key(at, one) = (at << BITS + 1) | one.slot

        # @return [Integer] the time of .key
        def self.time(key) = key >> BITS + 1

        # @return [Integer] see Traveller#slot
        def self.slot(number) = number & MASK

        # @param travellers [Array<Traveller>]
        def initialize(travellers)
          @travellers = travellers.each_with_index { |one, i| one.slot = i }.dup
          @seeds = travellers.map(&:seed)
          # By slot: those for whom it is their turn.
          @with = []
          @days, @today, @soon = {}, nil, nil
        end

        # @param line [Line] whose turns come after all others' of their second
        # @return [Line]
        def add(line)
          line.slot = @travellers.size
          @travellers << line
          line
        end

        # @param slots [Array<Integer>]
        # @param length [Integer] seconds over which they are spread
        # @param step_id [Integer] before which they are
        # @return [Array<Integer>] see .number
        def spread(slots, length, step_id)
          slots.map do |slot|
            (Calendar::Timing.spread(length, Journey::Machine.spacing(@seeds[slot], step_id)) << BITS + 1) | slot
          end
        end

        # @return [Boolean] whether the turns of both instants are put in order together
        def one_day?(at, other) = at / DAY == other / DAY

        # @return [Boolean] whether that is on a later day than the one whose turns are taken
        def later?(at) = @today.nil? || at / DAY > @today

        # @param one [Traveller]
        # @param with [Crowd, Line, nil] those for whom it is their turn
        def call(one, at, with = nil)
          @with[one.slot] = with
          day = at / DAY
          # What was missed is made up for now.
          day = @today if @today && day < @today
          number = (by_time(at, one.had_letter) << BITS) | one.slot
          return on(day).numbers << number unless @soon && day == @today

          @soon.insert(@soon.bsearch_index { |other| other <= number } || @soon.size, number)
        end

        # @param numbers [Array<Integer>] of .number, of one crowd
        # @param opens [Integer] when its stretch begins
        def call_all(numbers, opens, crowd)
          return if numbers.empty?
          if @soon || later?(opens + Turns.after(numbers.max))
            return numbers.each { |number| call(whose(number), opens + Turns.after(number), crowd) }
          end

          from, all = by_time(opens, crowd.heard) << BITS, @days[@today].numbers
          numbers.each do |number|
            @with[number & MASK] = crowd
            all << from + number
          end
        end

        # Those who were called will find that crowd instead.
        # @param numbers [Array<Integer>] of .number
        def hand_over(numbers, crowd)
          numbers.each { |number| @with[number & MASK] = crowd }
        end

        # A crowd is lined up on the day of its opening.
        # @param at [Integer] on a later day
        def gather(crowd, at)
          on(at / DAY).gathering << crowd
        end

        # @param box [Sending::Room::Box]
        # @return [Integer] so many gathered for today who hear from it
        def gathered_for(box) =
          @days[@today].gathering.sum { |crowd| (crowd.kind == :letters && crowd.box.equal?(box)) ? crowd.size : 0 }

        # @param number [Integer] of .number, or a slot
        # @return [Traveller]
        def whose(number) = @travellers[number & MASK]

        # @yieldparam one [Traveller]
        # @yieldparam with [Crowd, Line, nil]
        # @yieldparam at [Integer]
        def each(&block)
          until @days.empty?
            @today = @days.each_key.min
            @soon = nil
            day = @days[@today]
            day.gathering.each { |crowd| crowd.line_up(self) }
            play(day.numbers.sort!, &block)
            @days.delete(@today)
          end
        end

        private

        # @return [Day]
        def on(day) = @days[day] ||= Day.new([], [])

        def by_time(at, heard) = heard ? at * 2 : at * 2 + 1

        # The last of @soon comes first.
        def play(waiting, &block)
          @soon = soon = []
          waiting.each do |number|
            take(soon.pop, &block) until soon.empty? || soon.last > number
            slot = number & MASK
            yield @travellers[slot], @with[slot], number >> (BITS + 1)
          end
          take(soon.pop, &block) until soon.empty?
        end

        def take(number)
          slot = number & MASK
          yield @travellers[slot], @with[slot], number >> (BITS + 1)
        end
      end
    end
  end
end
