# frozen_string_literal: true

module NimbleLetter
  module Work
    # When a person last did something themselves, and what: it follows from their history, so it is read from that again when events
    # have moved from one record to another.
    module LastHeard
      # @param ids [Array<Integer>] people
      def self.read_again(ids)
        ids.each do |id|
          heard = Records::Event.where(person_id: id, kind: Core::Journey::Happenings::REACTIONS, by_machine: false)
          at, kind = heard.order(Sequel.desc(:occurred_at), Sequel.desc(:id)).get(%i[occurred_at kind])
          Records.db[:people].where(id: id).update(last_activity_at: at, last_activity_kind: kind)
        end
      end
    end
  end
end
