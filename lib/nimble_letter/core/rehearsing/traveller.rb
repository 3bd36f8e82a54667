# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Somebody on their way through a rehearsal. Times are in seconds since 1970: each letter asks for several.
      class Traveller
        NOTHING = [].freeze
        private_constant :NOTHING

        # id: of the person; box: of Sending::Room; had_letter: whether they have heard from us
        attr_reader :id, :box
        attr_accessor :had_letter
        # step_id: the one they stand before; base: since when; seed: of Known
        attr_reader :step_id, :base, :seed
        # decision: what is next, maybe that of somebody alike; nil: something is to be heard first. wanted: when it was due
        attr_reader :decision, :wanted
        # due: since it was put off; why: what kept it
        attr_accessor :due, :why
        # slot: their number in Turns; lately: what they have had, of Sending::Room#lately
        attr_accessor :slot, :lately
        # What is assumed and has not come yet, oldest first.
        attr_reader :pending
        # @return [Integer] see Journey::Happenings.bits: all that happened or will
        attr_reader :heard

        # @param id [Integer] of the person
        # @param box [Sending::Room::Box]
        # @param place [Journey::Place]
        # @param known [Journey::Known]
        # @param had_letter [Boolean]
        def initialize(id, box, place, known, had_letter)
          @id, @box, @had_letter, @seed = id, box, had_letter, known.seed
          @pending, @news, @spent = NOTHING, NOTHING, NOTHING
          self.known = known
          @heard = @came
          self.place = place
        end

        # @return [Journey::Place]
        def place
          return @place unless @moved

          @place = @place.with(step_id: @step_id, base: Time.at(@base).utc, begun: nil, spent: @place.spent + @spent)
          @moved, @spent = false, NOTHING
          @place
        end

        def place=(place)
          @place, @step_id, @base, @moved, @spent = place, place.step_id, place.base.to_i, false, NOTHING
          @begun = !place.begun.nil?
        end

        # On before another step.
        # @return [self]
        def go(step_id, base)
          @step_id, @base, @moved, @begun = step_id, base, true, false
          self
        end

        # On into a lane.
        # @param event [Journey::Known::Event] that takes it, and no other
        def follow(event, step_id, base)
          go(step_id, base)
          @spent = [*@spent, event.id]
        end

        # @param why [Symbol, nil] what keeps it
        # @return [self]
        def decide(decision, due, why = nil)
          @decision, @wanted, @due, @why = decision, due, due, why
          self
        end

        # Something comes before what was decided.
        def undecide
          @decision = nil
        end

        # @param events [Array<Journey::Known::Event>] still to come
        def expect(events)
          @heard |= bits(events)
          return @pending = events if @pending.empty?

          before = @pending.last
          @pending += events
          @pending.sort_by!(&:at) if before.at > events.first.at
        end

        # What has come by now is known.
        def hear(now)
          return if @pending.empty? || @pending.first.at.to_i > now

          came, @pending = (@pending.size > 1) ? @pending.partition { |event| event.at.to_i <= now } : [@pending, NOTHING]
          @came |= bits(came)
          @news = @news.empty? ? came : @news + came
        end

        # @return [Journey::Known] what has happened
        def known
          return @known if @news.empty?

          @known, @news = @known.plus(*@news), NOTHING
          @known
        end

        def known=(known)
          @known, @news, @stands = known, NOTHING, nil
          @came = bits(known.events)
        end

        # @return [Journey::Known] see there
        def core = @known.core

        # @param alike [Journey::Alike]
        # @return [Journey::Stand, nil] where they are as others are
        def stand(alike, plan)
          found = stand_alike(alike, plan)
          found if found && @heard & found.heeds == 0
        end

        # @return [Journey::Stand, nil] where others are of whom the same is known, whatever has happened or will
        def stand_alike(alike, plan) = ((@stands ||= alike.stands(plan, @known))[@step_id] unless @begun)

        # @return [Boolean] whether nothing has happened that is heeded there
        def unheeded?(stand) = @came & stand.heeds == 0

        private

        def bits(events)
          bits = 0
          events.each { |event| bits |= Journey::Happenings.bit(event.kind) }
          bits
        end
      end
    end
  end
end
