# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who joined a sequence by a live rule because of an act that was undone, is still in it and has had nothing yet: a mistaken tag, list,
    # field or file. The undo offers to remove them.
    module JoinedThrough
      # What says that somebody has had something of a sequence.
      HAD = Core::Journey::Happenings::HAD
      OUT = %w[sent claimed on_wire in_doubt].freeze

      # @param members [Sequel::Dataset]
      # @return [Sequel::Dataset] those who have had no letter, and for whom nothing was done
      def self.had_nothing(members)
        letters = Records::Delivery.where(member_id: Sequel[:members][:id], state: OUT)
        done = Records::Event.where(person_id: Sequel[:members][:person_id], member_id: Sequel[:members][:id], kind: HAD)
        members.exclude(letters.select(1).exists).exclude(done.select(1).exists)
      end

      # @param set [Records::ChangeSet]
      # @param people [Sequel::Dataset, Array<Integer>] of it
      # @return [Sequel::Dataset] members who joined by a rule while the act was in force
      def self.since(set, people)
        joined = Records::Member.active.where(person_id: people).exclude(rule_id: nil).where { since_event > set.since_event }
        set.upto_event ? joined.where { since_event <= set.upto_event } : joined
      end

      # @param set [Records::ChangeSet]
      # @return [Sequel::Dataset] members; nobody as long as the act holds
      def self.members(set, moment)
        return Records::Member.where(false) unless set.state == "undone" && set.kind != "merge"

        entries = set.entries_dataset.where(state: "undone")
        found = had_nothing(since(set, entries.select(:person_id))).select_map(%i[id person_id rule_id])
        return Records::Member.where(false) if found.empty?

        rules = Records::JoinRule.where(id: found.map(&:last).uniq).as_hash(:id)
        after = entries.where(person_id: found.map { |_, person_id, _| person_id }).as_hash(:person_id).transform_values(&:after)
        found.select! { |_, person_id, rule_id| (rule = rules[rule_id]) && made_true?(rule, after[person_id] || {}, set) }
        Records::Member.where(id: no_longer(found, rules, moment))
      end

      # @param set [Records::ChangeSet] undone
      # @return [Array<Records::ChangeSet>] one for each sequence they are removed from, which can be undone too
      def self.remove(set, moment)
        members(set, moment).select_map(%i[sequence_id person_id]).group_by(&:first).map do |sequence_id, pairs|
          act = Act.new({"kind" => "take_out", "sequence_id" => sequence_id}, moment)
          ChangeMany.start(act, Records::Person.where(Sequel[:people][:id] => pairs.map(&:last)), moment: moment)
        end
      end

      # @param after [Hash] what the act made of the record
      def self.made_true?(rule, after, set)
        return true if after.key?(TakeBack::MADE)

        case rule.kind
        when "tag", "list" then after.key?("#{rule.kind}:#{rule.settings["#{rule.kind}_id"]}")
        when "field", "yearly" then after.key?(rule.settings["field"])
        when "file" then set.kind == "import"
        else rule.kind == "filter"
        end
      end
      private_class_method :made_true?

      # @param found [Array<Array(Integer, Integer, Integer)>] member, person and rule
      # @return [Array<Integer>] members who no longer match the rule
      def self.no_longer(found, rules, moment)
        found.group_by(&:last).flat_map do |rule_id, rows|
          still = still_true(rules[rule_id], rows.map { |_, person_id, _| person_id }, moment)
          rows.reject { |_, person_id, _| still.include?(person_id) }.map(&:first)
        end
      end
      private_class_method :no_longer

      def self.still_true(rule, ids, moment)
        case rule.kind
        when "tag", "list" then WhoIsMeant.holding(rule, ids)
        when "filter" then LiveFilter.new(rule, moment).people.where(Sequel[:people][:id] => ids).select_map(Sequel[:people][:id])
        else []
        end
      end
      private_class_method :still_true
    end
  end
end
