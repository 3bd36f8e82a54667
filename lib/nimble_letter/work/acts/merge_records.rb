# frozen_string_literal: true

require "time"

module NimbleLetter
  module Work
    # Makes one record of two: the fields somebody picked, and the history, deals, memberships, tags, lists and addresses
    # of both. The other record goes to the bin. All of it is written down, so that it can be taken back.
    class MergeRecords
      # What is simply moved. Events stay as they are but for whose they are (the database allows no more).
      MOVED = {events: :person_id, deals: :person_id, deliveries: :person_id, incoming: :person_id,
               tasks: :person_id}.freeze
      SETS = {people_tags: :tag_id, list_people: :list_id}.freeze
      # What a person has once for each of something: moved where the record that stays has none.
      ONCE = {person_addresses: :email_fold, personal_lines: %i[step_id member_id]}.freeze

      # @param kept [Records::Person] the record that stays
      # @param gone [Records::Person]
      # @param values [Hash{String=>Object}] fields picked from the other, by key
      # @param versions [Array(Integer, Integer)] of both, as they were read
      # @return [Records::ChangeSet]
      # @raise [Invalid, Conflict]
      def self.call(kept, gone, values, versions:, moment:) = new(kept, gone, moment).merge(values, versions)

      def initialize(kept, gone, moment)
        @kept, @gone, @moment = kept, gone, moment
        @ended = [] # memberships that the merge ends
      end

      def merge(values, versions)
        raise Invalid.new("A record cannot be merged with itself.", at: "with") if @kept.id == @gone.id

        Records.db.transaction do
          [@kept, @gone].sort_by(&:id).each(&:lock!)
          unless [@kept.version, @gone.version] == versions && @kept.deleted_at.nil? && @gone.deleted_at.nil?
            raise Conflict.new(
              "One of the two records changed meanwhile.",
              hint: "Look at both again.",
              data: {
                versions: [@kept.version, @gone.version]
              }
            )
          end
          before = PersonBefore.of(@kept)
          @heard = [@kept.last_activity_at&.iso8601(6), @kept.last_activity_kind]
          moved = Records::Stirred.quietly { move }
          @picked = PickedPeople.follow(@gone.id, @kept.id)
          hear
          ChangePerson.call(@kept, values, version: @kept.version, moment: @moment) if values.any?
          if @gone.email && @gone.email_fold != @kept.email_fold
            PersonAddresses.new(@kept.refresh, @moment).put(@gone.email, as: "further")
          end
          keep_no(before["values"])
          PutInBin.call([@gone.id], moment: @moment)
          Records.db[:people].where(id: @gone.id).update(version: Sequel[:version] + 1)
          note(before, moved)
        end
      end

      # @param set [Records::ChangeSet] of a merge
      # @raise [Invalid, Conflict] when the record has been changed since
      def self.take_back(set, moment:)
        Records.db.transaction do
          set.lock!
          raise Invalid.new("This has been taken back already.", code: :undone_already) if set.state == "undone"

          act = set.act
          kept, gone = Records::Person[act["kept"]].lock!, Records::Person[act["gone"]].lock!
          if kept.deleted_at || gone.emptied || changed_since?(kept, act)
            raise Conflict.new(
              "Somebody has changed this record since it was merged.",
              code: :changed_since,
              hint: "What was moved can no longer be told apart; change the record by hand."
            )
          end
          act["moved"].each { |table, ids| Records.db[table.to_sym].where(id: ids).update(person_id: gone.id) }
          act.fetch("fills", []).each { |step, field, member|
            fills(kept, step_id: step, field: field, member_id: member || 0).update(person_id: gone.id)
          }
          act["members"].each { |id, round| Records.db[:members].where(id: id).update(person_id: gone.id, round: round) }
          act["sets"].each { |table, ids| Records.db[table.to_sym].where(:person_id => kept.id, SETS.fetch(table.to_sym) => ids).delete }
          PickedPeople.take_back(act.fetch("picked", []), gone.id, kept.id)
          PersonBefore.put_back(kept, act["before"])
          forget_heard(kept, act["heard"], set.created_at) if act.key?("heard")
          Records.db[:people].where(id: gone.id).update(deleted_at: nil, version: Sequel[:version] + 1)
          NoAtAddress.follow_people([kept.id, gone.id], moment)
          Standing.come_back(Records::Member.where(id: act.fetch("ended", [])), "merged", moment)
          set.update(state: "undone", handled: 2, ended_at: moment.now)
        end
        set
      end

      # What was changed and changed back is as it was.
      def self.changed_since?(kept, act)
        act["stamp"] ? PersonBefore.stamp(kept) != act["stamp"] : kept.version != act["version"]
      end
      private_class_method :changed_since?

      # What was heard from the other record before the merge is theirs again; what came since stays.
      # @param heard [Array(String, String), Array(nil, nil)] instant and kind before
      def self.forget_heard(kept, heard, merged_at)
        return if kept.last_activity_at && kept.last_activity_at > merged_at

        at, kind = heard
        Records.db[:people].where(id: kept.id).update(last_activity_at: at && Time.iso8601(at), last_activity_kind: kind)
      end
      private_class_method :forget_heard

      # @return [Sequel::Dataset]
      def self.fills(person, **which) = Records.db[:letter_fills].where(person_id: person.id, **which)

      private

      def move
        moved = MOVED.to_h do |table, column|
          ids = Records.db[table].where(column => @gone.id).select_map(:id)
          ids.each_slice(1000) { |some| Records.db[table].where(id: some).update(column => @kept.id) }
          [table, ids]
        end
        [moved.merge(once), members, sets]
      end

      # @return [Hash{Symbol=>Array<Integer>}]
      def once
        ONCE.to_h do |table, column|
          rows = ->(person) { Records.db[table].where(person_id: person.id) }
          had = rows.call(@kept).select_map(column)
          had << @kept.email_fold if table == :person_addresses
          ids = rows.call(@gone).exclude(column => had).select_map(:id)
          Records.db[table].where(id: ids).update(person_id: @kept.id)
          [table, ids]
        end
      end

      # What was filled in for one letter only.
      # @return [Array<Array(Integer, String, Integer)>] steps, fields and members
      def move_fills
        had = self.class.fills(@kept).select_map(%i[step_id field member_id])
        (self.class.fills(@gone).select_map(%i[step_id field member_id]) - had).each do |step, field, member|
          self.class.fills(@gone, step_id: step, field: field, member_id: member).update(person_id: @kept.id)
        end
      end

      # The later word of the two.
      def hear
        return if @gone.last_activity_at.nil? || (@kept.last_activity_at && @kept.last_activity_at >= @gone.last_activity_at)

        Records.db[:people].where(id: @kept.id).update(
          last_activity_at: @gone.last_activity_at,
          last_activity_kind: @gone.last_activity_kind
        )
        @kept.refresh
      end

      # A "no" of either record is a "no" of the person, whichever fields were picked.
      # @param before [Hash] of the record that stays
      def keep_no(before)
        changes = {do_not_mail: true} if @gone.do_not_mail || before["do_not_mail"]
        if [before["consent"], @gone.consent].include?("no") && @kept.refresh.consent != "no"
          said = (before["consent"] == "no") ? before.transform_keys(&:to_sym) : @gone.values
          changes = changes.to_h.merge(said.slice(:consent, :consent_on, :consent_how, :consent_how_fold, :consent_by_id))
        end
        @kept.update(changes) if changes
        NoAtAddress.follow_people([@kept.id, @gone.id], @moment)
      end

      # Twice in one sequence means twice the letters: the membership that is less far is ended, and both stay on file.
      def members
        kept = Records::Member.where(person_id: @kept.id).order(:id).for_update.all
        Records::Member.where(person_id: @gone.id).order(:id).for_update.all.to_h do |member|
          same = kept.select { |one| one.sequence_id == member.sequence_id }
          same.select { |one| one.state == "active" && member.state == "active" }.each { |one| end_one([one, member]) }
          round = member.round
          member.update(person_id: @kept.id, round: ([round - 1] + same.map(&:round)).max + 1)
          [member.id, round]
        end
      end

      # @param pair [Array<Records::Member>] the one that stays first
      def end_one(pair)
        plan = @moment.plan_of(pair.first.sequence_id, pair.first.plan)
        order = plan.all.map(&:id)
        less_far = pair.reverse.min_by { |member| order.index(member.step_id) || order.size }
        Leaving.call(less_far, "merged", at: @moment.now, account_id: @moment.account&.id)
        @ended << less_far.id
      end

      # @return [Hash{Symbol=>Array<Integer>}] tags and lists the kept record did not have
      def sets
        SETS.to_h do |table, column|
          had = Records.db[table].where(person_id: @kept.id).select_map(column)
          more = Records.db[table].where(person_id: @gone.id).select_map(column) - had
          Records.db[table].import([:person_id, column], more.map { |id| [@kept.id, id] }) if more.any?
          [table, more]
        end
      end

      def note(before, moved)
        rows, members, sets = moved
        act = {
          kept: @kept.id,
          gone: @gone.id,
          version: @kept.refresh.version,
          stamp: PersonBefore.stamp(@kept),
          before: before,
          moved: rows,
          members: members,
          ended: @ended,
          sets: sets,
          fills: move_fills,
          picked: @picked,
          heard: @heard
        }
        set =
          Records::ChangeSet.create(
            kind: "merge",
            words: "Merged #{@gone.name} into #{@kept.name}"[0, 300],
            act: act,
            state: "done",
            total: 2,
            handled: 2,
            account_id: @moment.account&.id,
            created_at: @moment.now,
            ended_at: @moment.now
          )
        [@kept, @gone].each { |person| Records::ChangeEntry.insert(change_set_id: set.id, person_id: person.id, state: "done") }
        Records.db[:events].insert(
          kind: "merged",
          person_id: @kept.id,
          occurred_at: @moment.now,
          account_id: @moment.account&.id,
          data: JSON.generate(words: @gone.name)
        )
        set
      end
    end
  end
end
