# frozen_string_literal: true

module NimbleLetter
  module Work
    # Letters that were set aside for a gap are due again as soon as it is filled, in the record or for this letter only. The database is
    # asked whose records lack nothing any more; only their letters are merged, in the words that would go out.
    class FilledGaps
      # Letters of a step of which no record tells whether they have a gap; those behind are tried again by hand.
      NOT_KNOWN = 1000

      # @param moment [Moment]
      # @return [Integer] letters that are due again
      def self.round(moment) = new(moment).call

      def initialize(moment) = @moment = moment

      # What goes wrong with the letters of one step stops no other.
      def call
        waiting.group_by { |row| row[:step_id] }.sum do |step_id, rows|
          PutAside.guard("round", "filled gaps of step #{step_id}", at: @moment.now) { again(Records::Step[step_id], rows) } || 0
        end
      end

      private

      # They may be many, and are looked at every few seconds: only numbers.
      # @return [Array<Hash>] id (of the thing set aside), delivery_id, step_id, person_id, mailbox_id
      def waiting
        Records::SetAside.with_gap.resting.join(:deliveries, id: :delivery_id).where(Sequel[:deliveries][:state] => "failed")
          .order(Sequel[:set_asides][:id]).naked
          .select(Sequel[:set_asides][:id], :delivery_id, :step_id, :person_id, :mailbox_id).all
      end

      def again(step, rows)
        some = filled_perhaps(step, rows)
        deliveries = Records::Delivery.where(id: rows.filter_map { |row| row[:delivery_id] if some.include?(row[:person_id]) })
        filled = full(step, deliveries.eager(:mailbox, :letter).all).to_set
        rows.count { |row| filled.include?(row[:delivery_id]) && take_up(row[:id]) }
      end

      def take_up(id)
        aside = Records::SetAside[id]
        aside ? TakeUp.new(aside, @moment).again : false
      rescue Sequel::NoExistingObject
        false # another worker, or somebody by hand, was quicker
      end

      # @return [Set<Integer>] people
      def filled_perhaps(step, rows)
        ids = rows.map { |row| row[:person_id] }
        test = MayHaveGap.new(step, @moment, Records::Mailbox.where(id: rows.map { |row| row[:mailbox_id] }.uniq).eager(:account).all)
        not_known = (test.condition || asks_services?(step)) ? [] : ids.first(NOT_KNOWN)
        (ids - test.among(ids).to_a + Records::LetterFill.of_step(step.id, ids).keys + not_known).to_set
      end

      # An outside service is asked when a letter is to go, not every few seconds.
      def asks_services?(step)
        letters = Core::Letters::Split::VERSIONS.map { |version| @moment.letter_of(step, version) }
        Core::Letters::Lookups.needed(letters.flat_map(&:documents)).any?
      end

      # @return [Array<Integer>] numbers of letters without a gap
      def full(step, deliveries)
        plans = Records::Member.where(id: deliveries.map(&:member_id)).select_hash(:id, :plan)
        deliveries.group_by { |one| [one.letter, one.version, plans[one.member_id]] }.flat_map do |(letter, version, plan), alike|
          people = Records::Person.where(id: alike.map(&:person_id)).as_hash(:id)
          words = @moment.held_letter(letter, step.sequence_id, plan)
          merging = Merging.new(words, people.values, @moment, step: step, subject: step.subject_of(version))
          there = alike.select { |one| people.key?(one.person_id) }
          there.select { |one| merging.call(people[one.person_id], one.mailbox).gaps.empty? }.map(&:id)
        end
      end
    end
  end
end
