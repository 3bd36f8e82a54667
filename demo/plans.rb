# frozen_string_literal: true

module NimbleLetter
  module Demo
    # How the sequences of the demo firm are laid out, as the contract has steps.
    module Plans
      OUTCOMES = %w[interested call_later no_answer not_now].freeze

      # @param letters [Hash{String=>Records::Letter}] by name
      def self.of(letters) = Builder.new(letters)

      # Steps with the firm's hours, and forks from what leads where.
      class Builder
        def initialize(letters)
          @letters = letters
        end

        # One letter after the other. rows: name and working days after the one before.
        def row(rows) = rows.map { |name, days| letter(name, days) }

        # Whoever listened to the recording is rung up; who only opened the letter, or not even that, gets another one.
        def dining_rooms
          heard = {"kind" => "clicked", "step_id" => -1, "link" => RECORDING}
          listened = lane("Listened to it", heard, [task("Ring and offer a listening visit", 1)])
          opened = lane("Opened the letter", {"kind" => "opened", "step_id" => -1}, [letter("Shall we listen together?", 1)])
          rest = lane("Neither", nil, [change("tag", {"names" => ["quiet for now"]})], comes_back: false)
          [letter("The table nobody asks for twice", 0), letter("Before and after at table nine", 2).merge("id" => -1),
            fork(2, listened, opened, rest), letter("Two dates that would suit", 4)]
        end

        # A letter, a call, and a letter to whoever was not reached.
        def trade_evening
          interested = {"kind" => "task_done", "step_id" => -2, "outcome" => "interested"}
          visit = lane("Wants a visit", interested, [change("stage", {"stage" => "listening_visit"})], comes_back: false)
          [letter("Good to meet you at the trade evening", 0), task("Ring and ask how their room sounds", 3).merge("id" => -2),
            fork(1, visit, lane(nil, nil, [])), letter("Shall we listen together?", 4)]
        end

        # Begun this week: what follows a click is not said yet.
        def classrooms
          noticed = lane("Read what one school noticed", {"kind" => "clicked", "step_id" => -1}, [task(nil, 1)])
          [letter("Classrooms before summer", 0).merge("id" => -1), fork(5, noticed, lane(nil, nil, [])),
            letter("Shall we listen together?", 5)]
        end

        # Whoever asks for the prices has them within the quarter of an hour, whatever the day.
        def price_list
          at_once = {"amount" => 5, "unit" => "minutes", "days" => "any", "from_minute" => 0, "to_minute" => 1440}
          [letter("The price list, as you asked", 0).merge(at_once), letter("Which of the four is yours?", 5)]
        end

        private

        RECORDING = "https://ternandfallow.example/listen/table-nine"
        HOURS = {"from_minute" => 540, "to_minute" => 690}.freeze
        private_constant :RECORDING, :HOURS

        def letter(name, days) = {"kind" => "letter", "letter_id" => @letters.fetch(name).id, "amount" => days, **HOURS}

        def task(words, days) =
          {"kind" => "task", "words" => words, "of" => "owner", "due_in" => 2, "waits" => true, "outcomes" => OUTCOMES, "amount" => days,
           "zone" => "ours", **HOURS}

        def change(what, to) =
          {"kind" => "change", "what" => what, "to" => to, "amount" => 0, "unit" => "days", "days" => "any", "from_minute" => 0,
           "to_minute" => 1440, "zone" => "ours"}

        def lane(words, test, steps, comes_back: true) = {"words" => words, "test" => test, "steps" => steps, "comes_back" => comes_back}

        def fork(days, *lanes) = {"kind" => "fork", "within" => {"amount" => days, "unit" => "working_days", **HOURS}, "lanes" => lanes}
      end
    end
  end
end
