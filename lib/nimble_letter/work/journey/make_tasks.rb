# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes the tasks of a step, one for each who has come to it. Made once: a second time finds it there, and opens one that was
    # dropped when its member was moved elsewhere.
    module MakeTasks
      SLICE = 500
      COLUMNS = %i[person_id account_id sequence_id step_id member_id words due_on made_at updated_at].freeze

      AGAIN = {
        due_on: Sequel.lit("IF(state = 'dropped', VALUES(due_on), due_on)"),
        reason: Sequel.lit("IF(state = 'dropped', NULL, reason)"),
        state: Sequel.lit("IF(state = 'dropped', 'open', state)")
      }.freeze

      # @param step [Core::Journey::Steps::Task]
      # @param members [Array<Records::Member>]
      # @param people [Hash{Integer=>Records::Person}]
      # @return [true]
      def self.call(step, members, people, moment)
        due_on = moment.calendar.after(moment.today, step.due_in)
        mailboxes = Records::Mailbox.where(id: members.map(&:mailbox_id).uniq).select_hash(:id, :account_id)
        rows = members.map do |member|
          whose = step.whose(people.fetch(member.person_id).owner_id, mailboxes[member.mailbox_id])
          [member.person_id, whose, member.sequence_id, step.id, member.id, step.words, due_on, moment.now, moment.now]
        end
        Records.db[:tasks].on_duplicate_key_update(AGAIN).import(COLUMNS, rows, slice: SLICE)
        true
      end
    end
  end
end
