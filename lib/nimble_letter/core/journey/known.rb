# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # What the machine must know of a member, besides their place.
      class Known
        # A happening of this round. id: its number. step_id: of the letter or task it is about. link, outcome: as in Steps::Reaction.
        # by_machine: a scanner's open or click, which is nobody's reaction.
        Event = Struct.new(:id, :kind, :at, :step_id, :link, :outcome, :by_machine, keyword_init: true)

        # The machine needs to know whether this holds, and was not told.
        class NotAsked < Error; end

        # @return [Known] the same but for its happenings: one and the same object however many of them came
        attr_reader :core

        attr_reader :answers, :events, :dates, :their_zone, :seed, :nods, :had, :away_until, :their_calendar

        # @param events [Array<Event>] oldest first
        # @param answers [Hash{Object=>Boolean}] by condition
        # @param dates [Hash{String=>Date}] by field key
        # @param their_zone [TZInfo::Timezone]
        # @param seed [Integer] the member's own; the person's number
        # @param nods [Array<Integer>] ids of steps that somebody nodded through
        # @param had [Array<Integer>] ids of steps that are done in this round; nobody gets one twice, wherever it stands by now
        # @param away_until [Date, nil] the day they said they are back
        # @param their_calendar [Calendar::WorkCalendar, nil] which days are worked where they are; nil: as here
        def initialize(their_zone:, seed:, events: [], answers: {}, dates: {}, nods: [], had: [], away_until: nil, their_calendar: nil)
          @events, @answers, @dates, @their_zone, @seed = events, answers, dates, their_zone, seed
          @nods, @had, @away_until, @their_calendar = nods, had, away_until, their_calendar
          @core = self
          freeze
        end

        # @raise [NotAsked]
        def holds?(condition)
          @answers.fetch(condition) { raise NotAsked.new("Nobody asked whether a condition of the plan holds.", code: :not_asked) }
        end

        # What happened besides, on paper.
        def plus(*more, **others)
          return dup.happened(more) if others.empty?

          self.class.new(
            events: events + more,
            answers: @answers,
            dates: dates,
            their_zone: their_zone,
            seed: seed,
            nods: nods,
            had: had,
            away_until: away_until,
            their_calendar: their_calendar,
            **others
          )
        end

        # @param seed [Integer]
        # @return [Known] somebody else of whom the same is known
        def like(seed) = dup.seeded(seed)

        protected

        def seeded(seed)
          @seed = seed
          freeze
        end

        def happened(more)
          @events += more
          freeze
        end
      end
    end
  end
end
