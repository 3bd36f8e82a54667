# frozen_string_literal: true

require "securerandom"

module NimbleLetter
  module Work
    # What comes of a round of the journey, gathered and written in a few statements: members, their letters, and what happened.
    class MemberWrites
      SLICE = 500
      # A letter that was called back before it came near the wire is due again; any other stays what it is.
      AGAIN = " ON DUPLICATE KEY UPDATE due_at = IF(state = 'skipped', VALUES(due_at), due_at), " \
              "reason = IF(state = 'skipped', NULL, reason), state = IF(state = 'skipped', 'due', state)"

      # Appends one event by itself, see #event.
      def self.tell(kind, member, step, data = nil, moment:)
        new(moment).tap { |written| written.event(kind, member, step, data) }.append_events
      end

      def initialize(moment)
        @moment = moment
        @members, @rows, @letters, @events = {}, {}, [], []
      end

      # @param member [Records::Member] holds the values from now on, and they are saved with those of the others. What somebody else
      #   has set of it and not saved is saved too.
      # @param values [Hash{Symbol=>Object}] columns, as they are kept
      def member(member, values)
        @members[member.id] = member
        row, held = @rows[member.id] ||= {}, member.values
        values.each { |name, value| row[name] = held[name] = value unless held[name] == value }
      end

      # @param step [Core::Journey::Steps::Letter]
      # @param at [Time] when it is due
      def letter(member, step, at)
        version = member.version_of(step.id)
        letter_id = (@letter_ids ||= {})[[step.id, version]] ||= Records::Step[step.id].letter_of(version).id
        @letters << {key: SecureRandom.urlsafe_base64(16), member_id: member.id, sequence_id: member.sequence_id, step_id: step.id,
                     person_id: member.person_id, letter_id: letter_id, mailbox_id: member.mailbox_id, state: "due", due_at: at,
                     version: version}
      end

      # @param step [Core::Journey::Steps, nil]
      def event(kind, member, step = nil, data = nil)
        letter_id = step.letter_id if step.is_a?(Core::Journey::Steps::Letter)
        data &&= data.compact
        @events << {kind: kind, person_id: member.person_id, occurred_at: @moment.now, sequence_id: member.sequence_id, step_id: step&.id,
                    letter_id: letter_id, member_id: member.id, account_id: @moment.account&.id,
                    data: (JSON.generate(data) if data&.any?)}
      end

      # What must stand before what somebody else writes of one member.
      def now(member)
        save({member.id => @members.delete(member.id)}) if @members.key?(member.id)
        append_events
      end

      def append_events
        Records::BulkInsert.call(:events, @events)
        @events = []
      end

      def flush
        append_events
        save(@members)
        @members = {}
        Records::BulkInsert.call(:deliveries, with_turns(@letters), ending: AGAIN)
        @letters = []
      end

      private

      # Whether they have heard from us in this round already.
      def with_turns(letters)
        return letters if letters.empty?

        members = letters.map { |letter| letter[:member_id] }
        begun = Records::Delivery.where(member_id: members, state: "sent").select_map(:member_id).to_set
        letters.map { |letter| {**letter, follow_up: begun.include?(letter[:member_id])} }
      end

      def save(members)
        rows = members.to_h { |id, member| [id, {**member.values.slice(*member.changed_columns), **@rows.delete(id)}] }
        rows.reject! { |_, row| row.empty? }
        return rows.each { |id, row| Records.db[:members].where(id: id).update(row) } if rows.size < 3

        columns = rows.each_value.flat_map(&:keys).uniq
        rows.each_key.each_slice(SLICE) do |ids|
          Records::UpdateTogether.call(:members, ids.map { |id| [:id, *columns].to_h { |name| [name, members[id].values.fetch(name)] } })
        end
      end
    end
  end
end
