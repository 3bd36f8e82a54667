# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # What people are assumed to do in a rehearsal, and when colleagues are done with what a sequence waits for. The same seed
      # assumes the same.
      class Assumption
        # Of how many letters each happens, from 0 to 1; only who opens clicks. by_person, by_step: factors of somebody's or a step's own.
        Rates = Struct.new(:opened, :clicked, :replied, :bounced, :by_person, :by_step, keyword_init: true)
        # Seconds after the letter within which most react.
        WITHIN = {"opened" => 24 * 3600, "clicked" => 1800, "replied" => 36 * 3600, "bounced" => 600}.freeze
        SOON = 2 * 3600
        KINDS = [*WITHIN.keys, "task_done"].freeze
        private_constant :KINDS

        # Nobody opens, clicks or answers.
        def self.nobody = new(Rates.new(opened: 0, clicked: 0, replied: 0, bounced: 0))

        # Everybody opens, two hours later, and nothing more.
        def self.everybody_opens = new(Rates.new(opened: 1, clicked: 0, replied: 0, bounced: 0), soon: true)

        # @param rates [Rates]
        # @param seed [Integer]
        # @param soon [Boolean] all of them two hours later
        def initialize(rates, seed: 0, soon: false)
          @rates, @seed, @soon = rates, seed, soon
        end

        # @return [Boolean] whether anybody reacts at all
        def silent? = [@rates.opened, @rates.clicked, @rates.replied, @rates.bounced].all? { |rate| rate.to_f.zero? }

        # @param person_id [Integer]
        # @param step [Steps::Letter]
        # @param at [Time] when they got it
        # @param link [String, nil] the one a click is on
        # @return [Array<Known::Event>] oldest first
        def reactions(person_id, step, at, link = nil)
          return [] if silent?
          return [event("bounced", step, at + 60)] if happens?("bounced", person_id, step)

          opened = after("opened", person_id, step, at)
          clicked = opened && after("clicked", person_id, step, opened)
          replied = after("replied", person_id, step, opened || at)
          times = {"opened" => opened, "clicked" => clicked, "replied" => replied}.select { |_, time| time }
          times.map { |kind, time| event(kind, step, time, (link if kind == "clicked")) }.sort_by(&:at)
        end

        # @return [Known::Event] that a colleague is done with a task, with its first outcome
        def done(step, at) = event("task_done", step, at, nil, step.outcomes.first)

        private

        def after(kind, person_id, step, at)
          return unless happens?(kind, person_id, step)
          return at + SOON if @soon

          # Most come early: the square of an even share.
          at + 60 + (share("#{kind} when", person_id, step)**2 * WITHIN.fetch(kind)).to_i
        end

        def happens?(kind, person_id, step)
          rate = @rates[kind].to_f * (@rates.by_person || {}).fetch(person_id, 1) * (@rates.by_step || {}).fetch(step.id, 1)
          rate.positive? && share(kind, person_id, step) < rate
        end

        # @return [Float] from 0 to 1, even over people and steps; a 64-bit finalizer (Steele, Lea and Flood, SplitMix, 2014)
        def share(what, person_id, step)
          mixed = what.sum * 0x9E3779B97F4A7C15 + @seed * 0xD1B54A32D192ED03
          mixed = (mixed + person_id * 0x8CB92BA72F3D8DD7 + step.id * 0xAEF17502108EF2D9) & 0xFFFFFFFFFFFFFFFF
          mixed = ((mixed ^ (mixed >> 30)) * 0xBF58476D1CE4E5B9) & 0xFFFFFFFFFFFFFFFF
          mixed = ((mixed ^ (mixed >> 27)) * 0x94D049BB133111EB) & 0xFFFFFFFFFFFFFFFF
          (mixed ^ (mixed >> 31)).fdiv(0x10000000000000000)
        end

        def event(kind, step, at, link = nil, outcome = nil)
          # Assumed ones have numbers of their own, below those of what happened.
          id = -(step.id * KINDS.size + KINDS.index(kind) + 1)
          Known::Event.new(id: id, kind: kind, at: at, step_id: step.id, link: link, outcome: outcome, by_machine: false)
        end
      end
    end
  end
end
