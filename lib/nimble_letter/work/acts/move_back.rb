# frozen_string_literal: true

module NimbleLetter
  module Work
    # Gives the record that comes back by the undo of a merge the rows that were moved, wherever later merges have put them. What a
    # person has once for each of something, and what the record was given meanwhile by being restored and merged again, makes room.
    class MoveBack
      # @param set [Records::ChangeSet] of the merge
      # @param holders [Array<Integer>] the record that stayed, and the one it may have become part of since
      # @param gone [Records::Person] who comes back
      def initialize(set, holders, gone)
        @set, @act, @holders, @gone = set, set.act, holders, gone
      end

      def call
        @act["moved"].except("personal_lines").each { |table, ids| here(table.to_sym).where(id: ids).update(person_id: @gone.id) }
        here(:personal_lines).where(id: @act["moved"].fetch("personal_lines", [])).order(:id).all.each { |line| line_back(line) }
        here(:members).where(id: @act["members"].keys.map(&:to_i)).order(:id).all.each { |member| member_back(member) }
        @act.fetch("fills", []).each { |key| fill_back(key) }
      end

      private

      def here(table) = Records.db[table].where(person_id: @holders)

      def theirs(table) = Records.db[table].where(person_id: @gone.id)

      def line_back(line)
        other = theirs(:personal_lines).where(line.slice(:step_id, :member_id)).get(:id)
        if other
          giver = later.find { |set| set.act["moved"].fetch("personal_lines", []).include?(other) } or return
          theirs(:personal_lines).where(id: other).update(person_id: giver.act["gone"])
        end
        here(:personal_lines).where(id: line[:id]).update(person_id: @gone.id)
      end

      def member_back(member)
        round, rounds = @act["members"].fetch(member[:id].to_s), theirs(:members).where(sequence_id: member[:sequence_id])
        rounds.where(round: round).update(round: rounds.max(:round).to_i + 1)
        here(:members).where(id: member[:id]).update(person_id: @gone.id, round: round)
      end

      # @param key [Array(Integer, String, Integer)] step, field and member
      def fill_back(key)
        same = {step_id: key[0], field: key[1], member_id: key[2] || 0}
        return unless theirs(:letter_fills).where(same).empty? || passed_back?(key, same)

        # A later merge moved it on only where the record that stayed then had none of its own.
        holder = @holders.find { |id| Records.db[:letter_fills].where(person_id: id, **same).any? }
        Records.db[:letter_fills].where(person_id: holder, **same).update(person_id: @gone.id)
      end

      # @return [Boolean] whether what stands there came by a later merge, and went back to whose it was
      def passed_back?(key, same)
        giver = later.find { |set| set.act.fetch("fills", []).include?(key) } or return false
        theirs(:letter_fills).where(same).update(person_id: giver.act["gone"])
        giver.update(act: giver.act.merge("fills" => giver.act["fills"] - [key]))
        true
      end

      # @return [Array<Records::ChangeSet>] merges since, by which the one who comes back was given rows
      def later
        @later ||= begin
          entries = Records::ChangeEntry.where(person_id: @gone.id).where { |o| o.change_set_id > @set.id }
          sets = Records::ChangeSet.where(kind: "merge", state: "done", id: entries.select(:change_set_id)).order(:id).all
          sets.select { |set| set.act["kept"] == @gone.id }
        end
      end
    end
  end
end
