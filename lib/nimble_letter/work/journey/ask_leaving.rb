# frozen_string_literal: true

module NimbleLetter
  module Work
    # Once a day everybody in a sequence that says "leave if …" is asked, by one statement a sequence; before each step they are
    # asked anyway.
    module AskLeaving
      SLICE = 500

      # @param moment [Moment]
      # @return [Integer] members who left
      def self.round(moment)
        asking(moment).sum do |sequence|
          key = "leaving #{sequence.id}"
          left = Records::TakingTurns.with(key) { PutAside.guard("round", key, at: moment.now) { ask(sequence, moment) } }
          # What cannot be asked is shown, and asked again tomorrow.
          Records::Sequence.where(id: sequence.id).update(asked_on: moment.today)
          left.to_i
        end
      end

      # @return [Time, nil] when the next of them is asked
      def self.next_due(moment)
        return if Records::Sequence.under_way.exclude(leave_if: nil).empty?

        Core::Calendar::Zones.instant(moment.firm.zone, moment.today + 1, 0)
      end

      def self.asking(moment)
        Records::Sequence.under_way.exclude(leave_if: nil)
          .where(Sequel.|({asked_on: nil}, Sequel[:asked_on] < moment.today)).all
      end
      private_class_method :asking

      def self.ask(sequence, moment)
        test = moment.sql.read(moment.parser.parse!(sequence.leave_if))
        ids = Records::Person.where(test).select(Sequel[:people][:id])
        left = 0
        until (count = slice(sequence, ids, moment)).zero?
          left += count
        end
        left
      end
      private_class_method :ask

      def self.slice(sequence, ids, moment)
        Records.db.transaction do
          members = Records::Member.active.where(sequence_id: sequence.id, person_id: ids).order(:id).limit(SLICE).for_update.all
          members.each { |member| Leaving.call(member, "condition", at: moment.now) }.size
        end
      end
      private_class_method :slice
    end
  end
end
