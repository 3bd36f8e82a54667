# frozen_string_literal: true

module NimbleLetter
  module Work
    # What the journey must know of people to decide, read for many of them in a few statements: what happened in this round,
    # dates, zones, and whether the conditions hold that the plan asks of them now.
    class Knowing
      Known = Core::Journey::Known
      HAPPENINGS = Core::Journey::Happenings::KINDS.keys.freeze
      EVERYWHERE = HAPPENINGS.select { |kind| Core::Journey::Happenings.everywhere?(kind) }.freeze
      HAD = Core::Journey::Happenings::HAD
      NODDED = "nodded"

      # All that is asked of a record when no date of it is.
      PERSON = %i[id time_zone country away_until owner_id].freeze

      # @param ids [Array<Integer>]
      # @return [Hash{Integer=>Records::Person}] as much of them as the journey asks for
      def self.people(ids, plan)
        stretch = stretch(ids)
        people = Records::Person.where(id: stretch || ids)
        read = (plan.date_fields.empty? ? people.select(*PERSON) : people).as_hash(:id)
        stretch ? only(read, ids) : read
      end

      # Of a hundred thousand, too, who would be too many arguments.
      # @param people [Hash{Integer=>Object}]
      # @return [Hash{Integer=>Object}] those who are asked for
      def self.only(people, ids)
        ids.each_with_object({}) { |id, found| found[id] = people[id] if people.key?(id) }
      end

      # Neighbours are read in half the time when they are not asked for one by one.
      # @return [Range, nil] in which at least half of the records are theirs
      def self.stretch(ids)
        first, last = ids.minmax
        (first..last) if first && last - first < 2 * ids.size
      end
      private_class_method :stretch

      # @param plan [Core::Journey::Plan]
      # @param moment [Moment]
      def initialize(plan, moment)
        @plan, @moment = plan, moment
      end

      # Of people who are not in it: nothing has happened, and every condition as it holds now.
      # @param people [Array<Records::Person>]
      # @return [Hash{Integer=>Known}] by person
      def of_people(people)
        asked = @plan.conditions.to_h { |condition| [condition, people.map(&:id)] }
        known(people, people.to_h { |person| [person.id, person] }, answers(asked)) { {} }
      end

      # @param members [Array<Records::Member>] of this plan
      # @param people [Hash{Integer=>Records::Person}]
      # @param all [Boolean] every condition of the plan, and not only those of the step they stand before
      # @param heard [Boolean] whether what happened counts although nothing of the plan waits for it
      # @return [Hash{Integer=>Known}] by member
      def of_members(members, people, all: false, heard: false)
        events = (@plan.simple? && !heard && members.none?(&:moved)) ? {} : events(members)
        of = Knowing.only(people, members.map(&:person_id))
        known(members, of, answers(all ? asked_of_all(members) : asked_now(members))) { |member| happened(events.fetch(member.id, [])) }
      end

      private

      def known(subjects, people, answers)
        dates = dates(people.values)
        subjects.to_h do |subject|
          person = people.fetch(subject.is_a?(Records::Member) ? subject.person_id : subject.id)
          happened = yield(subject)
          plain = happened.empty? && dates.empty? && answers.empty? && person.away_until.nil?
          [subject.id, plain ? plainly(person) : in_full(person, dates.fetch(person.id, {}), answers.fetch(person.id, {}), happened)]
        end
      end

      # Most of those who are not in it yet.
      def plainly(person)
        alike = (@plain ||= {}.compare_by_identity)[@moment.zone_of(person)] ||= {}.compare_by_identity
        (alike[@moment.calendar_of(person)] ||= in_full(person, {}, {}, {})).like(person.id)
      end

      def in_full(person, dates, answers, happened)
        away = person.away_until
        Known.new(
          their_zone: @moment.zone_of(person),
          their_calendar: @moment.calendar_of(person),
          seed: person.id,
          dates: dates,
          away_until: (away if away && away >= @moment.today),
          answers: answers,
          **happened
        )
      end

      # @return [Hash{Integer=>Hash{String=>Date}}]
      def dates(people)
        fields = @plan.date_fields
        return {} if fields.empty?

        @moment.facts.for_people(people, deals: fields.any? { |key| key.start_with?("deal.") })
          .transform_values { |values| values.slice(*fields).compact }
      end

      def asked_now(members)
        members.each_with_object(Hash.new { |all, condition| all[condition] = [] }) do |member, asked|
          @plan.asks(member.step_id).each { |condition| asked[condition] << member.person_id }
        end
      end

      def asked_of_all(members) = @plan.conditions.to_h { |condition| [condition, members.map(&:person_id)] }

      # @param asked [Hash{Object=>Array<Integer>}] people by condition
      # @return [Hash{Integer=>Hash{Object=>Boolean}}] by person
      def answers(asked)
        asked.each_with_object({}) do |(condition, ids), answers|
          test = @moment.sql.read(node(condition))
          hold = ids.empty? ? [] : Records::Person.where(Sequel[:people][:id] => ids).where(test).select_map(Sequel[:people][:id]).to_set
          ids.each { |id| (answers[id] ||= {})[condition] = hold.include?(id) }
        end
      end

      def node(condition) = (@nodes ||= {})[condition] ||= @moment.parser.parse!(condition)

      # What happened in the round each of them is in; an answer counts in whatever sequence it came.
      # @return [Hash{Integer=>Array<Hash>}] by member
      def events(members)
        by_person = members.group_by(&:person_id)
        rows =
          Records.db[:events]
            .where(person_id: by_person.keys, kind: HAPPENINGS + HAD + [NODDED])
            .where { id > members.map(&:since_event).min }
            .order(:occurred_at, :id)
            .select(:id, :kind, :person_id, :member_id, :delivery_id, :occurred_at, :step_id, :by_machine, :data)
            .all
        rows.each_with_object({}) do |row, events|
          by_person.fetch(row[:person_id]).each { |member| (events[member.id] ||= []) << row if theirs?(member, row) }
        end
      end

      def theirs?(member, row) =
        row[:id] > member.since_event && (row[:member_id] == member.id || EVERYWHERE.include?(row[:kind]))

      def happened(rows)
        {
          events: happenings(rows),
          nods: rows.select { |row| row[:kind] == NODDED }.map { |row| row[:step_id] },
          had: rows.select { |row| HAD.include?(row[:kind]) }.map { |row| row[:step_id] }
        }
      end

      def happenings(rows)
        machines = rows.select { |row| row[:by_machine] }
        rows.select { |row| HAPPENINGS.include?(row[:kind]) }.map do |row|
          data = row[:data] ? JSON.parse(row[:data]) : {}
          Known::Event.new(
            id: row[:id],
            kind: row[:kind],
            at: row[:occurred_at],
            step_id: row[:step_id],
            link: data["link"],
            outcome: data["outcome"],
            by_machine: row[:by_machine] || machines.any? { |other| gave_away?(other, row) }
          )
        end
      end

      # A scanner that fetches one link gives itself away at another; what it touched just before was no person either.
      def gave_away?(machine, row) =
        row[:delivery_id] && machine[:delivery_id] == row[:delivery_id] && machine[:kind] == row[:kind] &&
          (machine[:occurred_at] - row[:occurred_at]).abs <= Core::Journey::Forking::SETTLED_SECONDS
    end
  end
end
