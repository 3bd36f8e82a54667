# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes one record of two: the fields somebody picked, and the history, deals, memberships, tags, lists and addresses
    # of both. The other record goes to the bin. All of it is written down, so that it can be taken back (PartRecords): of the record
    # that stays, what it was and became, like any act; and which rows were moved.
    class MergeRecords
      # What is simply moved. Events stay as they are but for whose they are (the database allows no more).
      MOVED = {events: :person_id, deals: :person_id, deliveries: :person_id, incoming: :person_id,
               tasks: :person_id}.freeze
      SETS = {people_tags: :tag_id, list_people: :list_id}.freeze
      SET_KEYS = {people_tags: "tag:", list_people: "list:"}.freeze
      # What a person has once for each of something: moved where the record that stays has none.
      ONCE = {personal_lines: %i[step_id member_id]}.freeze

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
          Records::AddressTurns.take_of([@kept.id, @gone.id])
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
          begin_set
          @state = RecordState.new(@moment)
          keys = parts
          @held = @state.read([@kept.id], keys).fetch(@kept.id)
          @consent_by = @kept.consent_by_id
          moved = Records::Stirred.quietly { move }
          @picked = PickedPeople.follow(@gone.id, @kept.id)
          LastHeard.read_again([@kept.id])
          former = @kept.email
          values = Core::Sieve.keeping_no(values, @held)
          ChangePerson.call(@kept, values, version: @kept.version, moment: @moment) if values.any?
          [*addresses, former].compact.each { |email| PersonAddresses.new(@kept.refresh, @moment).put(email, as: "further") }
          keep_no
          PutInBin.call([@gone.id], moment: @moment)
          Records.db[:people].where(id: @gone.id).update(version: Sequel[:version] + 1)
          note(moved, changed(keys))
        end
      end

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

      # What a merge may change of the record that stays.
      # @return [Array<String>] keys, see RecordState
      def parts
        fields = @moment.catalogue.map(&:key).select { |key| @state.field(key) } - Core::Sieve::FOLLOWING
        sets = SETS.flat_map do |table, column|
          Records.db[table].where(person_id: @gone.id).select_map(column).map { |id| "#{SET_KEYS.fetch(table)}#{id}" }
        end
        [*fields, RecordState::COMPANY.key, *sets, *addresses.map { |email| RecordState::ADDRESS + email }]
      end

      # @return [Array<String>] of the record that goes; they are copied as tags are, and stay with it too
      def addresses = [@gone.email, *@gone.other_addresses_dataset.select_order_map(:email)].compact

      # @return [Array(Hash, Hash)] of the record that stays, what was another before, and what it is now
      def changed(keys)
        now = @state.read([@kept.id], keys).fetch(@kept.id)
        changed = keys.reject { |key| now[key] == @held[key] }
        [@held.slice(*changed), now.slice(*changed)]
      end

      # A "no" of either record is a "no" of the person, whichever fields were picked.
      def keep_no
        changes = {}
        changes[:do_not_mail] = true if @gone.do_not_mail
        if @gone.consent == "no" && @kept.refresh.consent != "no"
          changes.merge!(@gone.values.slice(:consent, :consent_on, :consent_how, :consent_how_fold, :consent_by_id))
        end
        @kept.update(changes) if changes.any?
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
          kept << member
          [member.id, round]
        end
      end

      # @param pair [Array<Records::Member>] the one that stays first
      def end_one(pair)
        plan = @moment.plan_of(pair.first.sequence_id, pair.first.plan)
        order = plan.all.map(&:id)
        less_far = pair.reverse.min_by { |member| order.index(member.step_id) || order.size }
        Leaving.call(less_far, "merged", at: @moment.now, account_id: @moment.account&.id, cause: @moment.cause)
        @ended << less_far.id
      end

      # Tags and lists the kept record did not have.
      def sets
        SETS.each do |table, column|
          more = Records.db[table].where(person_id: @gone.id).select_map(column)
          Records.db[table].insert_ignore.import([:person_id, column], more.map { |id| [@kept.id, id] }) if more.any?
        end
      end

      # First of all: those who leave a sequence by the merge, since a "no" of one record is now one of the other, come back with its undo.
      def begin_set
        @set =
          Records::ChangeSet.create(
            kind: "merge",
            words: "Merged #{@gone.name} into #{@kept.name}"[0, 300],
            act: {},
            state: "done",
            total: 2,
            handled: 2,
            account_id: @moment.account&.id,
            created_at: @moment.now,
            ended_at: @moment.now
          )
        @moment = @moment.because_of(@set.id)
      end

      # @param moved [Array] rows and memberships, as #move gives them
      # @param changed [Array(Hash, Hash)]
      def note(moved, changed)
        rows, members, = moved
        act = {
          kept: @kept.id,
          gone: @gone.id,
          consent_by: @consent_by,
          moved: rows,
          members: members,
          ended: @ended,
          fills: move_fills,
          picked: @picked
        }
        @set.update(act: act)
        before, after = changed.map { |values| JSON.generate(values) }
        Records::ChangeEntry.insert(change_set_id: @set.id, person_id: @kept.id, state: "done", before: before, after: after)
        before, after = [false, true].map { |binned| JSON.generate(RecordState::BIN => binned) }
        Records::ChangeEntry.insert(change_set_id: @set.id, person_id: @gone.id, state: "done", before: before, after: after)
        Records.db[:events].insert(
          kind: "merged",
          person_id: @kept.id,
          occurred_at: @moment.now,
          account_id: @moment.account&.id,
          data: JSON.generate(words: @gone.name)
        )
        @set
      end
    end
  end
end
