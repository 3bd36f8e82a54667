# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Letters in a Rehearsal that wait for a mailbox's pace and hours. While a mailbox keeps one of them, nothing else is asked about
      # those behind.
      module InLine
        private

        # @return [Boolean] whether a letter that would leave now has to wait before anything is asked about it
        def line?(box, at)
          return @room.paces?(box, at) if @lines.empty?

          @room.paces?(box, at) || !!@lines[box.id]&.waits?(at)
        end

        # @return [nil] so that nobody joins a crowd behind them
        def wait(one, at)
          one.why = @room.keeps_all(one.box, at)
          line(one.box, at).rank(one.had_letter).add(one, at)
          nil
        end

        # Somebody of a crowd waits, and with them all behind, if they can.
        def wait_together(crowd, one, at)
          if crowd.is_a?(Paced) && crowd.next?(one)
            crowd.hold_back
            line = line(crowd.box, at)
            line.upto = at
            return line.rank(crowd.heard).join(crowd)
          end

          kept_since(crowd, one, at)
          wait(one, at)
          crowd.call_more(@turns) if crowd.last_called.equal?(one)
        end

        # @return [Line] which will have its turn
        def line(box, at)
          line = @lines[box.id] ||= @turns.add(Line.new(box))
          line_up(line, @room.next_in_line(box, at)) unless line.awake
          line
        end

        def line_up(line, at)
          line.awake = true
          wake(line, at, line)
        end

        # The turn of those who wait for a mailbox.
        def move_up(line, at)
          line.awake = false
          opens = @room.next_in_line(line.box, at)
          return line_up(line, opens) if opens > at

          line.upto, rank = at, line.serving(at)
          put_off_missed(rank, at)
          first_goes(rank, at)
          await(line, @room.next_in_line(line.box, at)) unless line.awake
        end

        # Where nobody will wait any more, the next of each crowd comes by themselves.
        # @param at [Integer] when the next may go
        def await(line, at)
          line.waits?(at) ? line_up(line, at) : line.disband.each { |crowd| crowd.call_more(@turns) }
        end

        # Or is found to have left while it waited.
        def first_goes(rank, at)
          first = rank.first(at) or return
          return next_goes(rank, first, at) if first.is_a?(Paced)

          rank.shift
          heard = heeded(first)
          (heard && heard.at.to_i <= at) ? alone(first, heard.at.to_i) : goes(first, at)
        end

        # The next of a crowd. When the day is full for them, it is for all behind them.
        def next_goes(rank, crowd, at)
          number = crowd.shift
          one = kept_since(crowd, @turns.whose(number), crowd.time_of(number))
          # As long as its window is open, it is not late.
          one.due = at if crowd.open?(at)
          joined = goes(one, at)
          put_off_rest(rank, crowd, at, joined) if one.why == :full && joined.is_a?(Addressees)
          rank.leave(crowd) unless crowd.next_number
        end

        # @param full [Addressees] to which the one before them was put off
        def put_off_rest(rank, crowd, at, full)
          alone, others = put_off_first(crowd, crowd.give_up_before(Paced::NOBODY))
          came, alone = alone.partition { |number| crowd.time_of(number) <= at }
          came.each { |number| rank.add(kept_since(crowd, @turns.whose(number), crowd.time_of(number)), crowd.time_of(number)) }
          @turns.call_all(alone, crowd.opens, crowd)
          put_off_all(crowd, others, full, :full)
        end

        # Those of a crowd who have missed their time are put off together, up to the first who has to be asked alone.
        def put_off_missed(rank, at)
          upto = [Turns.key_of(0, at - Sending::Room::LATE_SECONDS), rank.first_key].compact.min
          missed = {}
          rank.crowds(upto).each do |crowd|
            span = missed_span(crowd, at) unless crowd.open?(at)
            if span then missed[crowd] = span
            else upto = [upto, crowd.next_key].min
            end
          end
          missed.each { |crowd, span| put_off_before(upto, crowd, span, rank) }
        end

        # @return [Calendar::Timing::Span, nil] to which those who missed their time are put off; nil: they may go, or not together
        def missed_span(crowd, at)
          number = crowd.next_number
          first = kept_since(crowd, @turns.whose(number), crowd.time_of(number))
          span = opening_span(first, at)
          opens = span ? span.opens : opening_alone(first, at)
          # On a later day, those of an earlier one go first.
          crowd.open_until = crowd.stand.shuts(at) if opens <= at
          span if span && together?(span)
        end

        # @param key [Integer] of Turns.key
        def put_off_before(key, crowd, span, rank)
          numbers = crowd.give_up_before(key)
          return if numbers.empty?

          rank.leave(crowd) unless crowd.next_number
          first = @turns.whose(numbers.first)
          later = gathering(first.stand(@machine, @plan), span, first.decision, first, late: true)
          why = all_kept_since(crowd, numbers)
          return put_off_all(crowd, numbers, later, why) if why

          numbers.group_by { |number| @turns.whose(number).why }.each { |kept, some| put_off_all(crowd, some, later, kept) }
        end

        # @return [Symbol, nil] what kept all of them; nil: each of them knows
        def all_kept_since(crowd, numbers)
          ends = [numbers.first, numbers.last].map { |number| @room.keeps_all(crowd.box, crowd.time_of(number)) }
          return :pace if crowd.late? && ends.uniq == [:pace]

          numbers.each { |number| kept_since(crowd, @turns.whose(number), crowd.time_of(number)) }
          nil
        end

        # @param at [Integer] when somebody of a crowd came, and found that they had to wait
        # @return [Traveller]
        def kept_since(crowd, one, at) = kept(crowd, one, at, @room.keeps_all(crowd.box, at))
      end
    end
  end
end
