# frozen_string_literal: true

require "date"

module NimbleLetter
  module Core
    module Calendar
      # When a step is due: so long after the step before or after joining, on a date, or around a date of the person's; then
      # inside a window of the day, on one of the chosen weekdays, on working days or any.
      class Timing
        COUNTED = %w[step joining date field].freeze
        UNITS = %w[minutes hours days working_days weeks months].freeze
        SECONDS = {"minutes" => 60, "hours" => 3600}.freeze
        # The longest delay that can be meant, by unit: about ten years.
        MOST = {"minutes" => 100_000, "hours" => 10_000, "days" => 3650, "working_days" => 2600, "weeks" => 520, "months" => 120}.freeze
        EVERY_DAY = [0, 1, 2, 3, 4, 5, 6].freeze
        DAY_MINUTES = 24 * 60
        SHORTEST_WINDOW = 15 # minutes; less leaves no room to space letters. None at all: exactly then
        TRIES = 10 # days on which a window opens; hours that meet it on none of them never do
        HALF_A_YEAR = 182 # days
        MINUTES_LATE = 120 # of what was meant for exactly one minute
        WIDEST_SPREAD = 15 * 60 # seconds, of what is counted in minutes and hours
        SPREAD_SHARE = 10 # or this part of the delay, whichever is less

        # at: UTC. from: what was counted from, an instant or a day. moved: why it is not the day or time that was counted
        # (:day_off, :weekday, :window), or nil. late: whether it was past when the member came to the step.
        Due = Struct.new(:at, :from, :moved, :late)
        # What the timing is about for one member. base: when the step before was done. joined: when they joined. dates: by field
        # key. seed: spaces letters unevenly; the same seed gives the same second.
        About = Struct.new(:base, :joined, :dates, :their_zone, :our_zone, :calendar, :seed)
        # Over what a seed spaces those who are alike but for it. opens: seconds since 1970; length: in seconds; moved: as of Due;
        # all_day: whether it is the same whenever on that day somebody came to the step.
        Span = Struct.new(:opens, :length, :moved, :all_day) do
          # @return [Integer] when it is due for somebody, in seconds since 1970
          def seconds(seed) = opens + Timing.spread(length, seed)
        end

        DEFAULTS = {counted: "step", amount: 0, unit: "working_days", date: nil, field: nil, yearly: false, from_minute: 540,
                    to_minute: 690, weekdays: EVERY_DAY, days: "working", zone: "theirs", late: "skip", no_date: "skip"}.freeze

        attr_reader(*DEFAULTS.keys)

        # Knuth's multiplicative hash spreads neighbouring numbers evenly (The Art of Computer Programming 3, 6.4).
        # @return [Integer] seconds into a stretch of so many
        def self.spread(seconds, seed) = seconds.positive? ? ((seed * 2_654_435_761) & 0xFFFFFFFF) * seconds >> 32 : 0

        # @param counted [String] of COUNTED: from when
        # @param amount [Integer] of units; negative for so long before a date
        # @param unit [String] of UNITS
        # @param date [Date, nil] of "date"
        # @param field [String, nil] key of a date field, of "field"
        # @param yearly [Boolean] every year from that date on, and not once
        # @param from_minute [Integer] the window opens, minutes after midnight
        # @param to_minute [Integer] it shuts, end excluded; the same: exactly then
        # @param weekdays [Array<Integer>] 0 is Sunday
        # @param days [String] "working" or "any"
        # @param zone [String] "theirs" or "ours"
        # @param late [String] what becomes of a step whose time is past when somebody comes to it: "skip" or "at_once"
        # @param no_date [String] what becomes of somebody without that date: "skip" the step or "leave"
        # @raise [Invalid]
        def initialize(**given)
          unknown = given.keys - DEFAULTS.keys
          wrong("there is no #{unknown.first.inspect}", unknown.first.to_s) if unknown.any?
          DEFAULTS.merge(given).each { |name, value| instance_variable_set(:"@#{name}", value) }
          @weekdays = Array(weekdays).uniq.freeze
          wrong("days of the week go from 0 (Sunday) to 6", "weekdays") unless weekdays.all?(Integer)
          @weekdays = weekdays.sort.freeze
          TimingCheck.call(self) { |message, at| wrong(message, at) }
          # Many members ask about the same few days; the same question always has the same answer.
          @fitting = {}.compare_by_identity
          freeze
        end

        # @param about [About]
        # @return [Due, nil] nil when the date it is about is empty. Never before the member came to the step, and inside an
        #   opening of the window.
        def due(about)
          zone_in_use = zone_in_use(about)
          case counted
          when "step" then after(about.base, about, zone_in_use)
          when "joining" then not_past(after(about.joined, about, zone_in_use), about, zone_in_use)
          when "date" then not_past(on(date, date, about, zone_in_use), about, zone_in_use)
          else around(about, zone_in_use)
          end
        end

        # @return [Span, nil] nil where not only the seed tells apart those who came to the step on one day: all but so many days, weeks
        #   or months after the step before
        def span(about)
          return unless spaced_by_day?

          zone_in_use = zone_in_use(about)
          came_on, minute = Zones.local(zone_in_use, about.base)
          day = shifted(came_on, about.calendar)
          fit, first, moved = opening_on(day, came_on, minute, about)
          # How much is left of a day's window hangs on the minute one comes.
          first && spanned(zone_in_use, fit, first, moved, fitting(day, about.calendar) > came_on)
        end

        # @return [Array(Integer, Integer), nil] when its window opens and shuts on a day, in seconds since 1970; nil: the clocks change
        #   meanwhile
        def window(zone_in_use, date)
          opens, shuts = [from_minute, shuts_at].map { |minute| Zones.instant(zone_in_use, date, minute).to_i }
          [opens, shuts] if shuts - opens == (shuts_at - from_minute) * 60
        end

        # @param minute [Integer] of a day on which it may be due
        # @return [Symbol, nil] how one comes to that day's window: :before it opens, :within it, or :after, when too little is left of
        #   it to space letters; nil: at exactly the minute that was meant
        def part(minute)
          return :before if minute < from_minute
          return if minute == from_minute && to_minute == from_minute

          (shuts_at - minute > SHORTEST_WINDOW) ? :within : :after
        end

        def spaced_by_day? = counted == "step" && !SECONDS.key?(unit)

        # @return [TZInfo::Timezone] by whose clock it goes
        def zone_in_use(about) = (zone == "theirs") ? about.their_zone : about.our_zone

        # @return [Due] the first second inside the window, at this instant or after
        def next_opening(instant, about, zone_in_use = zone_in_use(about)) =
          opened(opening_after(instant, about, zone_in_use), instant, about, zone_in_use)

        # @return [Due] when what missed its time may go: as #next_opening, but what was meant for exactly one minute may be late by
        #   so much of the same day before it waits for another
        # @param hours [Hours, nil] within which it goes, wherever they meet its window
        def reopening(instant, about, hours = nil)
          zone_in_use = zone_in_use(about)
          span = hours && in_hours(hours, instant, about, zone_in_use)
          return Due.new(Time.at(span.seconds(about.seed)).utc, instant, span.moved, false) if span

          opened(reopening_on(instant, about, zone_in_use), instant, about, zone_in_use)
        end

        # @return [Span, nil] as #reopening, for those who are alike; nil: at once, or where it is no even stretch
        def reopening_span(instant, about, hours = nil)
          zone_in_use = zone_in_use(about)
          span = hours && in_hours(hours, instant, about, zone_in_use)
          return span if span

          date, first, moved = reopening_on(instant, about, zone_in_use)
          first && spanned(zone_in_use, date, first, moved, false)
        end

        # @param zone_in_use [TZInfo::Timezone] by whose clock it goes
        # @param day [Date] from which on
        # @return [Boolean] whether some of its window lies in these hours, then or when the clocks of both have changed
        def ever_meets?(hours, zone_in_use, day)
          [day, day + HALF_A_YEAR].any? do |one|
            hours.stretch(Zones.instant(zone_in_use, one, from_minute), Zones.instant(zone_in_use, one, shuts_at))
          end
        end

        # @param seed [Integer]
        # @return [Integer] seconds added to what is counted in minutes or hours, so that letters do not leave together
        def spacing_seconds(seed) = Timing.spread([amount * SECONDS.fetch(unit) / SPREAD_SHARE, WIDEST_SPREAD].min, seed)

        # @param day [Date]
        # @return [Date] so many days, working days, weeks or months later; the day itself where it is counted in minutes or hours
        def shifted(day, calendar)
          case unit
          when "days" then day + amount
          when "weeks" then day + amount * 7
          when "months" then day >> amount
          when "working_days" then calendar.after(day, amount)
          else day
          end
        end

        # @param day [Date]
        # @return [Date] that day, or the next on which it may be due
        def fitting(day, calendar)
          known = @fitting[calendar] ||= {}
          known.clear if known.size > MOST_KEPT
          known[day.jd] ||= next_fitting(day, calendar)
        end

        def fixed? = %w[date field].include?(counted)

        # @return [Boolean] whether it goes on any day and at any hour
        def any_time? = days == "any" && weekdays == EVERY_DAY && any_hour?

        # @return [Integer] the minute from which on it goes on a day to which it was put off: where any hour will do, the one at which
        #   people read their post
        def morning = any_hour? ? DEFAULTS[:from_minute] : 0

        def to_h = DEFAULTS.keys.to_h { |name| [name, public_send(name)] }

        def ==(other) = other.is_a?(Timing) && other.to_h == to_h
        alias_method :eql?, :==

        def hash = to_h.hash

        private

        def any_hour? = from_minute.zero? && to_minute == DAY_MINUTES

        # @param opening [Array(Date, Integer, Symbol)] as of #opening_on
        def opened(opening, instant, about, zone_in_use)
          date, first, moved = opening
          Due.new(first ? slot(date, first, about.seed, zone_in_use) : instant, instant, moved, false)
        end

        # @param shuts [Integer] the minute of its day, excluded, up to which it is open
        def opening_after(instant, about, zone_in_use, shuts = shuts_at)
          date, minute = Zones.local(zone_in_use, instant)
          if fitting(date, about.calendar) == date
            return [date, nil, nil] if minute >= from_minute && minute < shuts
            return [date, from_minute, :window] if minute < from_minute
          end
          [fitting(date + 1, about.calendar), from_minute, moved(date, about.calendar) || :window]
        end

        # Over what is left of the window while the hours last: somebody's own minute may be one at which nothing ever leaves.
        # @return [Span, nil] nil: they do not meet
        def in_hours(hours, instant, about, zone_in_use)
          from, opening = instant, reopening_on(instant, about, zone_in_use)
          TRIES.times do
            date, first, moved = opening
            opens = first ? Zones.instant(zone_in_use, date, first) : from
            return Span.new(instant.to_i, 0, moved, false) if opens == instant && hours.open?(instant)

            # Whoever is late already may still go for so much of that day.
            shuts = Zones.instant(zone_in_use, date, first ? shuts_at : late_until)
            stretch = hours.stretch(opens, shuts)
            return stretched(stretch, moved) if stretch

            from, opening = shuts, opening_after(shuts, about, zone_in_use)
          end
          nil
        end

        def stretched(stretch, moved)
          opens, shuts = stretch.map(&:to_i)
          Span.new(opens, (to_minute == from_minute) ? 0 : shuts - opens, moved, false)
        end

        def reopening_on(instant, about, zone_in_use) = opening_after(instant, about, zone_in_use, late_until)

        def after(base, about, zone_in_use)
          seconds = SECONDS[unit]
          if seconds
            due = next_opening(base + amount * seconds + spacing_seconds(about.seed), about, zone_in_use)
            return Due.new(due.at, base, due.moved, false)
          end
          on(shifted(Zones.local(zone_in_use, base).first, about.calendar), base, about, zone_in_use)
        end

        # On a day, or the next that fits; what is left of the window when it is the day one comes to the step.
        def on(day, from, about, zone_in_use)
          came_on, minute = Zones.local(zone_in_use, about.base)
          fit, first, moved = opening_on(day, came_on, minute, about)
          Due.new(first ? slot(fit, first, about.seed, zone_in_use) : about.base, from, moved, false)
        end

        # @return [Array(Date, Integer, Symbol)] the day, the minute from which there is room in its window (nil: at once), and why it
        #   is not the day that was counted
        def opening_on(day, came_on, minute, about)
          fit = fitting(day, about.calendar)
          moved = moved(day, about.calendar) unless fit == day
          return [fit, from_minute, moved] unless fit == came_on

          part = part(minute)
          # At exactly that minute there is nothing left to space.
          return [fit, nil, moved] if part.nil?
          return [fit, (part == :within) ? minute + 1 : from_minute, moved] if part != :after || fixed?

          [fitting(fit + 1, about.calendar), from_minute, moved || :window]
        end

        # The clocks of a few windows change within them; what is due there is no even stretch.
        def spanned(zone_in_use, date, first_minute, moved, all_day)
          opens = Zones.instant(zone_in_use, date, first_minute).to_i
          length = [(to_minute - first_minute) * 60, 0].max
          Span.new(opens, length, moved, all_day) if Zones.instant(zone_in_use, date, to_minute).to_i - opens == length || length.zero?
        end

        # A time that was past when they came to the step: at the next opening, marked as late.
        def not_past(due, about, zone_in_use)
          return due if due.at >= about.base

          opening = next_opening(about.base, about, zone_in_use)
          Due.new(opening.at, due.from, opening.moved, true)
        end

        def around(about, zone_in_use)
          day = about.dates[field] or return
          return not_past(on(shifted(day, about.calendar), day, about, zone_in_use), about, zone_in_use) unless yearly

          came_on = Zones.local(zone_in_use, about.base).first
          # A shift of months or weeks may reach into the years around; the day itself is no anniversary.
          first = [came_on.year - years_of_shift, day.year + 1].max
          (first..).each do |year|
            anniversary = Anniversary.in_year(day, year)
            due = on(shifted(anniversary, about.calendar), anniversary, about, zone_in_use)
            return due if due.at >= about.base
          end
        end

        def years_of_shift = {"months" => amount.abs / 12, "weeks" => amount.abs / 52}.fetch(unit, amount.abs / 250) + 1

        def fits?(day, calendar) = weekdays.include?(day.wday) && (days == "any" || calendar.working_day?(day))

        MOST_KEPT = 3000 # days
        private_constant :MOST_KEPT

        def next_fitting(day, calendar)
          return day if fits?(day, calendar)
          return calendar.on_or_after(day) { |one| weekdays.include?(one.wday) } if days == "working"

          (1..6).each { |n| return day + n if weekdays.include?((day + n).wday) }
        end

        def moved(day, calendar)
          return :weekday unless weekdays.include?(day.wday)

          :day_off unless days == "any" || calendar.working_day?(day)
        end

        def shuts_at = (to_minute == from_minute) ? from_minute + 1 : to_minute

        # @return [Integer] the minute of its day, excluded, up to which may go what missed its time
        def late_until = (to_minute == from_minute) ? [from_minute + MINUTES_LATE + 1, DAY_MINUTES].min : to_minute

        def slot(date, first_minute, seed, zone_in_use)
          offset = Timing.spread((to_minute - first_minute) * 60, seed)
          Zones.instant(zone_in_use, date, first_minute + offset / 60, offset % 60)
        end

        def wrong(message, at) = raise(Invalid.new("About the timing: #{message}.", code: :timing_unclear, at: at))
      end
    end
  end
end
