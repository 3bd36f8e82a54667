# frozen_string_literal: true

module NimbleLetter
  module Core
    module Calendar
      # Reads when a step goes out as people type it: "3 working days after the step before, on Tue to Thu, 9 to 11:30 their time",
      # "10 days before room fitted on, every year", "on 24 Dec 2026 at 9:00". What is not mentioned is not touched.
      class TimingText
        UNITS = {"minute" => "minutes", "min" => "minutes", "hour" => "hours", "h" => "hours", "working day" => "working_days",
                 "workday" => "working_days", "business day" => "working_days", "day" => "days", "week" => "weeks",
                 "month" => "months"}.freeze
        DAYS = %w[sunday monday tuesday wednesday thursday friday saturday].freeze
        NUMBERS = {"a" => 1, "an" => 1, "one" => 1, "two" => 2, "three" => 3, "four" => 4, "five" => 5, "six" => 6, "seven" => 7,
                   "eight" => 8, "nine" => 9, "ten" => 10, "fourteen" => 14}.freeze
        MONTHS = %w[jan feb mar apr may jun jul aug sep oct nov dec].freeze
        UNIT = /(#{UNITS.keys.sort_by { |unit| -unit.length }.map { |unit| unit.sub(" ", "[ -]") }.join("|")})s?/
        COUNT = /(\d{1,6}|#{NUMBERS.keys.sort_by { |word| -word.length }.join("|")})/
        DAY = /(?:#{DAYS.map { |day| "#{day[0, 3]}(?:#{day[3..]})?" }.join("|")})s?/
        TIME = /(\d{1,2})(?:[:.](\d{2}))? ?(am|pm)?/
        private_constant :UNIT, :COUNT, :DAY, :TIME

        # @param fields [Hash{String=>String}] date fields by their label, in small letters
        # @param today [Date] a day without a year is the next of its name
        def initialize(fields:, today:)
          @fields, @today = fields, today
        end

        # @param text [String]
        # @return [Hash{Symbol=>Object}] parts of a Timing
        # @raise [Invalid] with the words that were not understood
        def read(text)
          @rest = text.to_s.downcase.tr("–—", "--").gsub(/[“”"'’]/, "").squeeze(" ").strip
          @parts = {}
          [:every_year, :around, :on_a_date, :counted, :days_off, :weekdays, :hours, :clock].each { |part| send(part) }
          left = @rest.gsub(/\b(and|on|at|between|from|to|then|only|in|the)\b|[,;.\s]+/, " ").squeeze(" ").strip
          refuse(left) unless left.empty?
          refuse(text) if @parts.empty?

          @parts
        end

        private

        def refuse(words)
          raise Invalid.new("“#{words.to_s.strip[0, 60]}” was not understood.", code: :timing_unclear, at: "text",
            hint: "Say it like: 3 working days after the step before, on Tue to Thu, 9:00 to 11:30 their time.")
        end

        # Takes what matches out of the text.
        def take(pattern)
          match = @rest.match(pattern) or return
          @rest = "#{match.pre_match} #{match.post_match}"
          match
        end

        def every_year = (@yearly = !take(/\b(every|each) year\b|\byearly\b/).nil?)

        # "10 days before birthday", "on birthday"
        def around
          label = @fields.keys.sort_by { |name| -name.length }.find { |name| @rest.match?(/\b#{Regexp.escape(name)}\b/) }
          return refuse("every year") if label.nil? && @yearly
          return unless label

          named = /(?:the |their |its )?#{Regexp.escape(label)}\b/
          @parts.merge!(counted: "field", field: @fields[label], yearly: @yearly, amount: 0, unit: "days")
          if (match = take(/\b#{COUNT} #{UNIT} (before|after) #{named}/))
            amount = count(match[1])
            @parts.merge!(amount: (match[3] == "before") ? -amount : amount, unit: unit(match[2]))
          else
            take(/\b(?:on )?#{named}/)
          end
        end

        def on_a_date
          return if @parts[:counted]

          if (match = take(/\b(?:on )?(\d{4})-(\d{2})-(\d{2})\b/)) then date(match[1].to_i, match[2].to_i, match[3].to_i)
          elsif (match = take(/\b(?:on )?(?:the )?(\d{1,2})(?:st|nd|rd|th)? (?:of )?(#{MONTHS.join("|")})[a-z]*\.?(?: (\d{4}))?\b/))
            date(match[3]&.to_i, MONTHS.index(match[2]) + 1, match[1].to_i)
          end
        end

        def date(year, month, day)
          refuse("#{day} #{MONTHS[month - 1]} #{year}") unless Date.valid_date?(year || 2024, month, day)
          day = year ? Date.new(year, month, day) : Anniversary.in_year(Date.new(2024, month, day), @today.year)
          day = Anniversary.in_year(day, day.year + 1) if year.nil? && day < @today
          @parts.merge!(counted: "date", date: day, amount: 0)
        end

        def counted
          return if @parts[:counted]

          if take(/\b(on joining|at once|immediately|straight away|same day)\b/)
            @parts.merge!(counted: "step", amount: 0, unit: "days")
          elsif (match = take(/\b(?:in )?#{COUNT} #{UNIT}\b/o))
            @parts.merge!(counted: joining? ? "joining" : "step", amount: count(match[1]), unit: unit(match[2]))
          end
        end

        def joining?
          return true if take(/\bafter (?:they )?join(?:ed|ing)?\b/)

          take(/\b(?:after (?:the )?(?:step|letter)(?: before| \d+)?|later|after that|after)\b/)
          false
        end

        def days_off
          if take(/\b(?:also |and )?(?:on )?days off(?: too)?\b|\b(?:any|every) day\b|\bweekends too\b/) then @parts.merge!(days: "any")
          elsif take(/\b(?:on )?working days(?: only)?\b/) then @parts.merge!(days: "working")
          end
        end

        def weekdays
          chosen = []
          while (match = take(/\b(#{DAY}) ?(?:to|-) ?(#{DAY})\b/o))
            first, last = day(match[1]), day(match[2])
            chosen |= (0..6).map { |n| (first + n) % 7 }.take_while { |one| one != last } + [last]
          end
          while (match = take(/\b(#{DAY})\b/o))
            chosen |= [day(match[1])]
          end
          return if chosen.empty?

          @parts[:weekdays] = chosen.sort
          # A chosen Sunday is meant.
          @parts[:days] ||= "any" if chosen.intersect?([0, 6])
        end

        def hours
          if (match = take(/\b(?:between |from )?#{TIME} ?(?:-|to|and) ?#{TIME}(?![\d:])/o))
            last = minutes(match[4], match[5], match[6])
            @parts.merge!(from_minute: minutes(match[1], match[2], match[3] || afternoon(match, last)), to_minute: last)
          elsif (match = take(/\b(?:at )?#{TIME}\b/o))
            at = minutes(match[1], match[2], match[3])
            @parts.merge!(from_minute: at, to_minute: at)
          end
        end

        # "2 to 4pm"
        def afternoon(match, last) = (match[6] if match[6] == "pm" && match[1].to_i < 12 && (match[1].to_i + 12) * 60 < last)

        def minutes(hours, minutes, half)
          hours = hours.to_i
          hours = hours % 12 + ((half == "pm") ? 12 : 0) if half
          refuse("#{hours}:#{minutes}") if hours > 24 || minutes.to_i > 59 || (hours == 24 && minutes.to_i.positive?)

          hours * 60 + minutes.to_i
        end

        def clock
          match = take(/\b(?:by )?(their|our|the firms) (?:time|clock|hours)\b/)
          @parts[:zone] = (match[1] == "their") ? "theirs" : "ours" if match
        end

        def count(word) = NUMBERS[word] || word.to_i

        def unit(word) = UNITS.fetch(word.tr("-", " "))

        def day(word) = DAYS.index { |day| day.start_with?(word[0, 3]) }
      end
    end
  end
end
