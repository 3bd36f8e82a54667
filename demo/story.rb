# frozen_string_literal: true

require "bcrypt"

module NimbleLetter
  module Demo
    # Half a year at the demo firm, lived through: the real worker sends to the real practice post office, its characters
    # answer, and colleagues handle what comes back. Nothing is written into the figures.
    class Story
      SEED = 7
      BEGINS = Time.utc(2025, 11, 10, 9)
      ENDS = Time.utc(2026, 5, 12, 15, 40) # Tue 12 May 2026, 16:40 in York
      PRICES = "asked for prices"

      # @param configuration [Configuration]
      # @param say [#call] tells progress
      def initialize(configuration, say: ->(_) {})
        @configuration, @say = configuration, say
        @clock = Practice::Clock.new
      end

      def tell
        @clock.set(BEGINS)
        @maren = Firm.make(now: BEGINS)
        People.new(since: BEGINS, owner: Records::Owner.new(@configuration)).fill
        @letters = Letters.make(@maren, now: BEGINS)
        make_filters
        Surroundings.new(@configuration).open do |conductor|
          @conductor = conductor
          live
        end
        @clock.set(ENDS)
        keep_lists
        work_on_letters
      end

      private

      # What colleagues keep beside their filters: two lists, and one firm that asked never to be written to.
      def keep_lists
        york = Records::Person.kept.where(city: "York", standing: "client")
        Work::KeepList.make("Open evening at Felt Yard", york, moment: moment, made_from: "everyone who is a client and is in York")
        press =
          Records::Person.kept.where(
            Sequel[:people][:id] => Records.db[:people_tags].join(:tags, id: :tag_id).where(name: "press").select(:person_id)
          )
        Work::KeepList.make("Press, winter 2025", press, moment: moment, made_from: "everyone who is tagged press")
        Work::BlockAddress.put(
          kind: "domain",
          value: Records::Person.kept.exclude(domain_fold: nil).order(:id).get(:domain_fold),
          reason: "Asked in writing not to be contacted",
          moment: moment
        )
      end

      # What lies on the desk this week; half of the clients would get another subject.
      def work_on_letters
        @letters = @letters.merge(Studio.new(moment).fill)
        june = draft("The yearly check, June", standing(%w[client]), {"kind" => "owner", "mailbox_id" => hello},
          plans.row([["The yearly check", 0]]))
        june.steps.first.update(
          other: {
            "what" => "subject",
            "subject" => Core::Letters::Document.from_text("Half an hour with the meter, {{first name|if you like}}").to_h,
            "at_least" => 30,
            "after_hours" => 48
          }
        )
        keep_at_hand =
          ["Spring from the workshop", "The yearly check"].map { |name| {account_id: @maren.id, letter_id: @letters.fetch(name).id} }
        Records.db[:letter_favourites].multi_insert(keep_at_hand)
      end

      def live
        start(
          "Winter letter",
          Time.utc(2025, 12, 2, 8, 30),
          standing(%w[client former_client]),
          {"kind" => "owner", "mailbox_id" => hello},
          plans.row([["Winter letter", 0], ["Shall we listen together?", 6]])
        )
        start("After the trade evening", Time.utc(2026, 2, 10, 8, 30), tag("trade evening"), {"kind" => "owner", "mailbox_id" => hello},
          plans.trade_evening)
        joined_by("A year of quiet", Time.utc(2026, 2, 23, 8), {kind: "yearly", settings: {"field" => "person.fitted_on", "days" => -10}},
          plans.row([["A year of quiet", 0]]))
        joined_by("The price list", Time.utc(2026, 3, 16, 8), {kind: "tag", settings: {"tag" => PRICES}}, plans.price_list)
        play_to(Time.utc(2026, 4, 2, 9))
        ask_for_prices(7)
        architects =
          start(
            "Architects’ round",
            Time.utc(2026, 4, 21, 8, 30),
            standing(%w[partner]),
            {"kind" => "mailbox", "mailbox_id" => hello},
            plans.row([["For architects: the quiet detail", 0], ["Shall we listen together?", 10]])
          )
        play_to(Time.utc(2026, 4, 24, 10))
        ask_for_prices(9)
        Work::RunSequence.call(architects, "pause", moment: moment)
        start(
          "Quieter dining rooms",
          Time.utc(2026, 5, 6, 7, 30),
          {"filter_id" => @restaurants.id},
          {"kind" => "owner", "mailbox_id" => hello},
          plans.dining_rooms
        )
        play_to(Time.utc(2026, 5, 8, 9))
        ask_for_prices(5)
        play_to(ENDS)
        classrooms = draft("Classrooms before summer", {"filter_id" => @schools.id}, {"kind" => "owner", "mailbox_id" => hello},
          plans.classrooms)
        text = "Idris knows the head at two of them: ask him before this starts."
        Work::NoteOnPlan.write(classrooms, text, step_id: classrooms.steps.first.id, moment: moment)
      end

      def plans = Plans.of(@letters)

      # Nobody is in it when it starts; whoever the rule becomes true of joins.
      def joined_by(name, at, rule, steps)
        play_to(at)
        sequence = draft(name, {}, {"kind" => "owner", "mailbox_id" => hello}, steps)
        Work::KeepRule.make(sequence, {**rule, live: true}, moment: moment)
        Work::StartSequence.call(sequence.refresh, version: sequence.version, letters: 0, moment: moment)
        @say.call("#{name}: whoever joins by itself")
      end

      # They rang up or wrote, and a colleague noted it.
      def ask_for_prices(people)
        asking = Records::Person.kept.where(standing: "lead").exclude(email: nil).exclude(Sequel[:people][:id] => asked_before)
        some = Records::Person.where(id: asking.order(Sequel.function(:md5, :email)).limit(people).select_map(Sequel[:people][:id]))
        Work::ChangeMany.start(Work::Act.new({"kind" => "tag", "names" => [PRICES]}, moment), some, moment: moment)
      end

      def asked_before = Records.db[:people_tags].where(tag_id: Records::Tag.named(PRICES).id).select(:person_id)

      def start(name, at, audience, sender, steps)
        play_to(at)
        sequence = draft(name, audience, sender, steps)
        leave_out_gaps(sequence)
        check = Work::ReadyCheck.new(sequence.refresh, moment).call
        Work::StartSequence.call(sequence, version: sequence.version, letters: check[:letters], moment: moment)
        @say.call("#{name}: #{check[:people]} people, #{check[:letters]} letters")
        sequence
      end

      def draft(name, audience, sender, steps)
        sequence =
          Records::Sequence.create(
            name: name,
            audience: audience,
            sender: sender,
            leave_on: %w[replied converted],
            account_id: @maren.id,
            created_at: moment.now,
            updated_at: moment.now
          )
        Work::PlanSequence.change(sequence, {version: sequence.version, steps: steps}, moment: moment)
      end

      # What a careful colleague would do: people whose letter has a gap stay out.
      def leave_out_gaps(sequence)
        outlook = Work::Outlook.new(sequence, moment)
        without = sequence.letter_steps.flat_map { |step| outlook.gaps(step).keys }.uniq
        sequence.update(audience: sequence.audience.merge("without" => without)) if without.any?
      end

      # Time passes in weeks; at the end of each somebody goes through the replies.
      def play_to(time)
        week = 7 * 86_400
        while @clock.now < time
          @conductor.play_to([@clock.now + week, time].min)
          desk = Desk.new(moment)
          desk.go_through_replies(keep_since: ENDS - 7 * 86_400)
          desk.go_through_tasks(keep_since: ENDS - 7 * 86_400)
        end
      end

      def make_filters
        @restaurants =
          filter(
            "Restaurant leads",
            {
              "all" => [
                {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]},
                {"field" => "company.type", "is" => "one_of", "value" => ["restaurant"]}
              ]
            }
          )
        @schools =
          filter(
            "Schools we know",
            {
              "all" => [
                {"field" => "company.type", "is" => "one_of", "value" => ["school"]},
                {"not" => {"field" => "person.standing", "is" => "one_of", "value" => ["former_client"]}}
              ]
            }
          )
        filter(
          "Quiet for ninety days",
          {
            "all" => [
              {"not" => {"activity" => "replied", "within" => {"amount" => 90, "unit" => "days"}}},
              {"activity" => "had_letter", "within" => {"amount" => 90, "unit" => "days"}}
            ]
          }
        )
      end

      def filter(name, condition) =
        Records::SavedFilter.create(name: name, condition: condition, account_id: @maren.id, created_at: BEGINS, updated_at: BEGINS)

      def standing(values) = {"condition" => {"field" => "person.standing", "is" => "one_of", "value" => values}}

      def tag(name) = {"condition" => {"field" => "person.tags", "is" => "one_of", "value" => [name]}}

      def hello = Records::Mailbox.first(address: "hello@ternandfallow.example").id

      def moment = Work::Moment.new(now: @clock.now, account: @maren)
    end
  end
end
