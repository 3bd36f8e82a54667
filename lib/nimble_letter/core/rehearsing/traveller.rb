# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Somebody on their way through a rehearsal. Times are in seconds since 1970: each letter asks for several.
      class Traveller
        # id: of the person; box: of Sending::Room; known: what has happened; had_letter: whether they have heard from us
        attr_reader :id, :box, :known
        attr_accessor :had_letter
        # step_id: the one they stand before; base: since when; seed: of Known
        attr_reader :step_id, :base, :seed
        # decision: what is next, maybe that of somebody alike; nil: something is to be heard first. wanted: when it was due
        attr_reader :decision, :wanted
        # due: since it was put off; why: what kept it
        attr_accessor :due, :why
        # slot: their number in Turns; with: those for whom it is their turn, or nil
        attr_accessor :slot, :with
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
          @id, @box, @known, @had_letter, @seed = id, box, known, had_letter, known.seed
          @pending, @heard = [], Journey::Happenings.bits(known.events.map(&:kind))
          self.place = place
        end

        # @return [Journey::Place]
        def place
          @place = @place.on(@step_id, Time.at(@base).utc) if @moved
          @moved = false
          @place
        end

        def place=(place)
          @place, @step_id, @base, @moved = place, place.step_id, place.base.to_i, false
          @begun = !place.begun.nil?
        end

        # On before another step.
        def go(step_id, base)
          @step_id, @base, @moved, @begun = step_id, base, true, false
        end

        def decide(decision, due)
          @decision, @wanted, @due, @why = decision, due, due, nil
        end

        # Something comes before what was decided.
        def undecide
          @decision = nil
        end

        # @param events [Array<Journey::Known::Event>] still to come
        def expect(events)
          before = @pending.last
          @pending += events
          @pending.sort_by!(&:at) if before && before.at > events.first.at
          @heard |= Journey::Happenings.bits(events.map(&:kind))
        end

        # What has come by now is known.
        def hear(now)
          return if @pending.empty? || @pending.first.at.to_i > now

          came, @pending = (@pending.size > 1) ? @pending.partition { |event| event.at.to_i <= now } : [@pending, []]
          @known = @known.plus(*came)
        end

        def known=(known)
          @known, @stands = known, nil
        end

        # @param alike [Journey::Alike]
        # @return [Journey::Stand, nil] where they are as others are
        def stand(alike, plan)
          found = stand_alike(alike, plan)
          found if found && (@heard & found.heeds).zero?
        end

        # @return [Journey::Stand, nil] where others are of whom the same is known, whatever has happened or will
        def stand_alike(alike, plan) = ((@stands ||= alike.stands(plan, @known))[@step_id] unless @begun)

        # @return [Boolean] whether nothing has happened that is heeded there
        def unheeded?(stand) = @known.events.none? { |event| stand.heeds & Journey::Happenings.bit(event.kind) != 0 }
      end
    end
  end
end
