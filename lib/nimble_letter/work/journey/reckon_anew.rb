# frozen_string_literal: true

module NimbleLetter
  module Work
    # When a date changes that a step stands around, the letters that wait for it are reckoned anew, whoever changed it and how. It
    # costs by what changed: the events since the last time are gone through, and nothing when no plan under way asks for a date.
    module ReckonAnew
      KEY = "reckoned_upto" # the number of the last event that was gone through
      MOST_EVENTS = 5000

      # @return [Integer] letters that moved
      def self.round(moment)
        fields = fields()
        return 0 if fields.empty?

        Records::TakingTurns.with("reckon") do
          upto = Records.db[:settings].where(key: KEY).get(:value)&.to_i
          last = Records::Event.max(:id).to_i
          next keep(last) && 0 unless upto

          events = Records::Event.where(id: (upto + 1)..last, kind: "field_changed").order(:id).limit(MOST_EVENTS).all
          people = events.select { |event| fields.include?(event.data["field"]) }.map(&:person_id).uniq
          # One who cannot be reckoned is shown, and keeps nobody else waiting.
          moved = people.sum { |id| PutAside.guard("round", "a date of person #{id}", at: moment.now) { person(id, moment) } || 0 }
          keep((events.size == MOST_EVENTS) ? events.last.id : last)
          moved
        end || 0
      end

      # @return [Array<String>] keys of dates that steps under way stand around
      def self.fields
        under_way = Records::Sequence.where(state: %w[running paused]).select(:id)
        Records::Step.where(counted: "field", sequence_id: under_way).distinct.select_map(:field)
      end
      private_class_method :fields

      def self.keep(id)
        Records.db[:settings].on_duplicate_key_update(value: id.to_s).insert(key: KEY, value: id.to_s)
        true
      end
      private_class_method :keep

      def self.person(id, moment)
        Records.db.transaction do
          person = Records::Person[id] or next 0
          members = Records::Member.active.where(person_id: id).for_update.all
          members.count { |member| Passing.anew(member, person, moment) }
        end
      end
      private_class_method :person
    end
  end
end
