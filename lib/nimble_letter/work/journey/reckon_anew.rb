# frozen_string_literal: true

module NimbleLetter
  module Work
    # When something changes that times or senders hang on, what waits is reckoned anew, whoever changed it and how: a date that a
    # step stands around, where somebody lives, who looks after them. It costs by what changed: the events since the last time are
    # gone through.
    module ReckonAnew
      KEY = "reckoned_upto" # the number of the last event that was gone through
      MOST_EVENTS = 5000
      SLICE = 500
      # These matter in any plan.
      ALWAYS = %w[person.time_zone person.country person.owner].freeze

      # @return [Integer] members whose next letter moved
      def self.round(moment)
        return 0 if under_way.empty?

        Records::TakingTurns.with("reckon") do
          upto = Records.db[:settings].where(key: KEY).get(:value)&.to_i
          last = Records::Event.max(:id).to_i
          next keep(last) && 0 unless upto
          next 0 if upto == last

          events = Records::Event.where(id: (upto + 1)..last, kind: "field_changed").order(:id).limit(MOST_EVENTS).all
          wanted = fields + ALWAYS
          changed = events.select { |event| wanted.include?(event.data["field"]) }.map(&:person_id)
          people = Records::Member.active.where(person_id: changed.uniq).distinct.select_map(:person_id)
          # One who cannot be reckoned is shown, and keeps nobody else waiting.
          moved = people.sum { |id| PutAside.guard("round", "a date of person #{id}", at: moment.now) { person(id, moment) } || 0 }
          keep((events.size == MOST_EVENTS) ? events.last.id : last)
          moved
        end || 0
      end

      # A date of a company or a deal has changed, which stands in nobody's history.
      # @param people [Sequel::Dataset]
      # @param keys [Array<String>] of fields
      def self.for_people(people, keys, moment)
        return if (fields & keys).empty?

        ids = Records::Member.active.where(person_id: people.select(Sequel[:people][:id])).distinct.select_map(:person_id)
        ids.each { |id| person(id, moment) }
      end

      def self.under_way = Records::Sequence.under_way.select_map(:id)
      private_class_method :under_way

      # @return [Array<String>] keys of dates that steps under way stand around
      def self.fields = Records::Step.where(counted: "field", sequence_id: under_way).distinct.select_map(:field)
      private_class_method :fields

      def self.keep(id)
        Records.db[:settings].on_duplicate_key_update(value: id.to_s).insert(key: KEY, value: id.to_s)
        true
      end
      private_class_method :keep

      def self.person(id, moment)
        Records.db.transaction do
          person = Records::Person[id] or next 0
          members = Records::Member.active.where(person_id: id).order(:id).for_update.all
          members.count { |member| [sender(member, person), Passing.anew(member, person, moment)].any? }
        end
      end
      private_class_method :person

      # A begun thread keeps its mailbox.
      def self.sender(member, person)
        sender = member.sequence.sender
        return false if sender["kind"] != "owner" || Records::Delivery.where(member_id: member.id).exclude(sent_at: nil).any?

        mailbox = Sender.new(sender).for(person)
        return false if mailbox.nil? || mailbox.id == member.mailbox_id

        member.update(mailbox_id: mailbox.id)
        Records::Delivery.where(member_id: member.id, state: "due").update(mailbox_id: mailbox.id)
        true
      end
      private_class_method :sender
    end
  end
end
