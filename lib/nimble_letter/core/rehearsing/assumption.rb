# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # What people are assumed to do in a rehearsal, and when colleagues are done with what a sequence waits for. The same seed
      # assumes the same.
      class Assumption
        # Of how many letters each happens, from 0 to 1; clicked: of those opened, since only who opens clicks. by_person, by_step: how
        # much more is read by somebody, or of a step; of people by their numbers, or what gives them for some of these, see #about.
        Rates = Struct.new(:opened, :clicked, :replied, :bounced, :by_person, :by_step, keyword_init: true)
        # Seconds after the letter within which most react.
        WITHIN = {"opened" => 24 * 3600, "clicked" => 1800, "replied" => 36 * 3600, "bounced" => 600}.freeze
        SOON = 2 * 3600
        KINDS = [*WITHIN.keys, "task_done"].freeze
        NUMBERS = KINDS.each_with_index.to_h.freeze
        MASK = 0x3FFFFFFF
        NOTHING = [].freeze
        OPENED, CLICKED = Journey::Happenings.bit("opened"), Journey::Happenings.bit("clicked")
        OF_READING = OPENED | CLICKED
        # Of whom or of what more is read, more is opened and answered. No more of those who open click: that would count it twice.
        BY_READING = %w[opened replied].freeze
        # rate: of how many letters; whether, delay: what tells by the seed whether and how soon it happens; within: see WITHIN;
        # by_reading: see BY_READING
        Chance = Struct.new(:kind, :rate, :whether, :delay, :within, :by_reading)
        private_constant :KINDS, :NUMBERS, :MASK, :NOTHING, :OPENED, :CLICKED, :OF_READING, :BY_READING, :Chance

        # Nobody opens, clicks or answers.
        def self.nobody = new(Rates.new(opened: 0, clicked: 0, replied: 0, bounced: 0))

        # Everybody opens, two hours later, and nothing more.
        def self.everybody_opens = new(Rates.new(opened: 1, clicked: 0, replied: 0, bounced: 0), soon: true)

        # @param rates [Rates]
        # @param seed [Integer]
        # @param soon [Boolean] all of them two hours later
        def initialize(rates, seed: 0, soon: false)
          @rates, @seed, @soon = rates, seed, soon
          @opens, @clicks, @replies, @bounces = %w[opened clicked replied bounced].map { |kind| chance(kind) }
          # By kind and step, but for the time.
          @events = KINDS.to_h { |kind| [kind, {}.compare_by_identity] }
          @possible = Journey::Happenings.bits([@opens, @clicks, @replies, @bounces].select { |chance| chance.rate.positive? }.map(&:kind))
        end

        # @return [Rates]
        attr_reader :rates

        # @param ids [Array<Integer>] of all people in a rehearsal
        # @return [Assumption] the same, with what they did before asked once for all of them
        def about(ids)
          return self unless @rates.by_person.respond_to?(:call)

          self.class.new(Rates.new(**@rates.to_h, by_person: @rates.by_person.call(ids)), seed: @seed, soon: @soon)
        end

        # @return [Integer] see Journey::Happenings.bits: what may happen at all
        attr_reader :possible

        # @param person_id [Integer]
        # @param step [Journey::Steps::Letter]
        # @param at [Integer] when they got it, in seconds since 1970
        # @param link [String, nil] the one a click is on
        # @param heeded [Integer] see Journey::Happenings.bits: what else happens goes unsaid
        # @return [Array<Journey::Known::Event>] oldest first
        def reactions(person_id, step, at, link = nil, heeded = Journey::Happenings::ALL)
          return NOTHING if (heeded & @possible).zero?
          return [event("bounced", step, at + 60)] if happens?(@bounces, person_id, step)
          # Whether they open it decides when they reply.
          return NOTHING if (heeded & OF_READING).zero? && !happens?(@replies, person_id, step)

          opened = after(@opens, person_id, step, at)
          clicked = opened && heeded & CLICKED != 0 && after(@clicks, person_id, step, opened)
          replied = after(@replies, person_id, step, opened || at)
          opened = nil if (heeded & OPENED).zero?
          return opened ? [event("opened", step, opened)] : NOTHING unless clicked || replied

          [(event("opened", step, opened) if opened), (event("clicked", step, clicked, link) if clicked),
            (event("replied", step, replied) if replied)].compact.sort_by!(&:at)
        end

        # @param at [Integer] seconds since 1970
        # @return [Journey::Known::Event] that a colleague is done with a task then, with its first outcome
        def done(step, at) = event("task_done", step, at, nil, step.outcomes.first)

        private

        def chance(kind)
          number = @seed * 64 + NUMBERS.fetch(kind)
          by_reading = (@rates.by_person || @rates.by_step) && BY_READING.include?(kind)
          Chance.new(kind, @rates[kind].to_f, mixed(number), mixed(number + KINDS.size), WITHIN.fetch(kind), by_reading)
        end

        def after(chance, person_id, step, at)
          return unless happens?(chance, person_id, step)
          return at + SOON if @soon

          # Most come early: the square of an even share.
          at + 60 + (share(chance.delay, person_id, step)**2 * chance.within).to_i
        end

        def happens?(chance, person_id, step)
          rate = chance.rate
          return false unless rate.positive?

          rate *= reading(person_id, step) if chance.by_reading
          rate.positive? && (rate >= 1 || share(chance.whether, person_id, step) < rate)
        end

        def reading(person_id, step) = (@rates.by_person&.fetch(person_id, 1) || 1) * (@rates.by_step&.fetch(step.id, 1) || 1)

        # @param question [Integer] a number of its own for each
        # @return [Float] from 0 to 1, even over people and steps
        def share(question, person_id, step) = mixed(mixed(question ^ person_id) ^ step.id).fdiv(MASK + 1)

        # Xor, shift and multiply (Marsaglia, Xorshift RNGs, 2003; Appleby's finalizers), in so many bits that no product is more than a
        # word of this machine: it is asked for each letter of a rehearsal.
        def mixed(number)
          number &= MASK
          number = ((number ^ (number >> 15)) * 0x2C1B3C6D) & MASK
          number = ((number ^ (number >> 12)) * 0x297A2D39) & MASK
          number ^ (number >> 15)
        end

        def event(kind, step, at, link = nil, outcome = nil)
          event = (@events[kind][step] ||= unsaid(kind, step, link, outcome)).dup
          event.at = Time.at(at).utc
          event
        end

        # Assumed ones have numbers of their own, below those of what happened.
        def unsaid(kind, step, link, outcome)
          id = -(step.id * KINDS.size + NUMBERS.fetch(kind) + 1)
          Journey::Known::Event.new(id: id, kind: kind, step_id: step.id, link: link, outcome: outcome, by_machine: false)
        end
      end
    end
  end
end
