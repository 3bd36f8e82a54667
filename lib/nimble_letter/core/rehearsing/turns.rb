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

        # @param travellers [Array<Traveller>]
        def initialize(travellers)
          @travellers = travellers.each_with_index { |one, i| one.slot = i }
          @days, @today, @soon = {}, nil, nil
        end

        # @return [Boolean] whether that is on a later day than the one whose turns are taken
        def later?(at) = @today.nil? || at / DAY > @today

        # @param one [Traveller]
        # @param with [Crowd, Line, nil] those for whom it is their turn
        def call(one, at, with = nil)
          one.with = with
          day = at / DAY
          # What was missed is made up for now.
          day = @today if @today && day < @today
          number = (by_time(at, one.had_letter) << BITS) | one.slot
          return on(day).numbers << number unless @soon && day == @today

          @soon.insert(@soon.bsearch_index { |other| other <= number } || @soon.size, number)
        end

        # The turns of a crowd, on the day that begins.
        # @param ones [Array<Traveller>]
        # @param times [Array<Integer>] when it is the turn of each of them
        def call_all(ones, times, crowd)
          return ones.each_with_index { |one, i| call(one, times[i], crowd) } if later?(times.max)

          numbers, i = @days[@today].numbers, -1
          ones.each do |one|
            one.with = crowd
            numbers << ((by_time(times[i += 1], crowd.heard) << BITS) | one.slot)
          end
        end

        # A crowd is lined up on the day of its opening.
        # @param at [Integer] on a later day
        def gather(crowd, at)
          on(at / DAY).gathering << crowd
        end

        # @param ones [Array<Traveller>]
        # @param times [Array<Integer>] of each of them
        # @return [Array<Traveller>] in the order of their times
        def in_order(ones, times)
          i = -1
          ones.map { |one| (times[i += 1] << BITS) | one.slot }.sort!.map! { |number| @travellers[number & MASK] }
        end

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
        def play(waiting)
          @soon = soon = []
          i = 0
          while (number = waiting[i] || soon.last)
            other = soon.last
            (other && other <= number) ? number = soon.pop : i += 1
            one = @travellers[number & MASK]
            yield one, one.with, number >> (BITS + 1)
          end
        end
      end
    end
  end
end
