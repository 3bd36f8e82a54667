# frozen_string_literal: true

module NimbleLetter
  module Processes
    # What happened to a person, a letter to somebody, or a sequence, and why, in order: the first thing to look at when something
    # went another way than it should. Read from events, deliveries, memberships, mail that came in and what was set aside.
    class Trace
      # at: Time; from: where it stands, with its number; words
      Line = Struct.new(:at, :from, :words)
      KINDS = %w[person delivery sequence].freeze

      def initialize(say: ->(words) { puts words })
        @console, @say = Console.new, say
      end

      # @param words [Array<String>] what it is, and its number or words of its name
      # @raise [Invalid, NotFound]
      def run(words)
        kind, *asked = words
        raise Invalid.new("Trace one of: #{KINDS.join(", ")}, with its number or name.") unless KINDS.include?(kind) && asked.any?

        asked = asked.join(" ")
        record = @console.public_send(kind, Integer(asked, exception: false) || asked)
        raise NotFound.new("There is no such #{kind}.") unless record

        send(:"of_#{kind}", record).sort_by { |line| [line.at, line.from] }.each { |line| say(line) }
      end

      private

      def of_person(person)
        events(Records::Event.where(person_id: person.id)) + deliveries(Records::Delivery.where(person_id: person.id)) +
          memberships(Records::Member.where(person_id: person.id)) + mail(Records::Incoming.where(person_id: person.id)) +
          put_aside(Records::SetAside.where(delivery_id: Records::Delivery.where(person_id: person.id).select(:id)))
      end

      def of_delivery(delivery)
        mine = {delivery_id: delivery.id}
        events(Records::Event.where(mine)) + deliveries(Records::Delivery.where(id: delivery.id)) +
          memberships(Records::Member.where(id: delivery.member_id)) + mail(Records::Incoming.where(mine)) +
          put_aside(Records::SetAside.where(mine))
      end

      # Of its members only who came and went, by number; each has a trace of their own.
      def of_sequence(sequence)
        mine = {sequence_id: sequence.id}
        of_it =
          Records::SequenceEvent.where(mine).all.map { |event|
            told = [event.kind, event.data&.to_json, event.account&.name]
            Line.new(event.occurred_at, "sequence event #{event.id}", told.compact.join(" "))
          }
        ways = events(Records::Event.where(mine).where(kind: %w[joined left finished]), whose: true)
        of_it + ways + deliveries(Records::Delivery.where(mine)) +
          put_aside(Records::SetAside.where(delivery_id: Records::Delivery.where(mine).select(:id)))
      end

      # @param whose [Boolean] whether to say whose each is
      def events(rows, whose: false)
        rows = rows.all
        Web::HistoryWords.new(rows, @console.moment).entries.zip(rows).map do |event, row|
          by = event[:by] || ("a machine" if event[:by_machine])
          told = [("person #{row.person_id}" if whose), event[:words], event[:detail], ("by #{by}" if by)]
          Line.new(event[:at], "event #{event[:id]}", told.compact.join(" · "))
        end
      end

      def deliveries(rows)
        rows.all.map do |one|
          told = [
            one.state,
            ("due #{stamp(one.due_at)}" if one.due_at),
            (tried(one.attempts) if one.attempts.positive?),
            one.reason,
            one.message_id
          ]
          Line.new(one.sent_at || one.due_at, "delivery #{one.id}", "step #{one.step_id}: #{told.compact.join(" · ")}")
        end
      end

      def memberships(rows)
        rows.all.map do |one|
          told = [
            one.state,
            one.left_reason,
            ("before step #{one.step_id}" if one.step_id),
            ("waits for #{one.waits_for}" if one.waits_for),
            ("asked again #{stamp(one.due_at)}" if one.due_at)
          ]
          Line.new(one.joined_at, "member #{one.id}", "in sequence #{one.sequence_id}, round #{one.round}: #{told.compact.join(" · ")}")
        end
      end

      def mail(rows)
        rows.all.map { |one| Line.new(one.received_at, "mail #{one.id}", [one.kind, one.sort, one.message_id].compact.join(" · ")) }
      end

      def put_aside(rows) =
        rows.all.map { |one| Line.new(one.last_at, "set aside #{one.id}", "#{one.kind} #{one.key}: #{one.reason}, #{tried(one.tries)}") }

      def tried(times) = (times == 1) ? "tried once" : "tried #{times} times"

      def say(line) = @say.call("#{stamp(line.at)}  #{line.from.ljust(18)} #{line.words}")

      def stamp(time) = time.utc.strftime("%F %T")
    end
  end
end
