# frozen_string_literal: true

module NimbleLetter
  module Work
    # What the change steps of a plan would make true or untrue of people, in memory: a rehearsal writes nothing. Fields, tags, lists,
    # standing and owner are followed; everything else that conditions ask about is as it stands now.
    class ImaginedChanges
      SLICE = 1000

      # @param plan [Core::Journey::Plan]
      # @param ids [Array<Integer>] people
      def initialize(plan, ids, moment)
        @plan, @ids, @moment = plan, ids, moment
      end

      # @return [Boolean] whether a change could decide anything
      def matter? = @plan.conditions.any? && @plan.all.any?(Core::Journey::Steps::Change)

      # @param traveller [Core::Rehearsing::Traveller]
      # @param step [Core::Journey::Steps::Change]
      # @return [Core::Journey::Known] with the answers as they are then
      def call(traveller, step)
        record = records.fetch(traveller.id)
        change(record, step.what, step.to)
        traveller.known.plus(answers: nodes.transform_values { |node| memory.match?(node, record) })
      end

      private

      def records
        @records ||= @ids.each_slice(SLICE).inject({}) { |all, some|
          all.merge(Records::WholeRecords.read(Records::Person.where(id: some).all))
        }
      end

      def nodes = @nodes ||= @plan.conditions.to_h { |condition| [condition, @moment.parser.parse!(condition)] }

      def memory = @memory ||= @moment.memory

      def change(record, what, to)
        case what
        when "tag" then record["person.tags"] |= to["names"]
        when "untag" then record["person.tags"] -= to["names"]
        when "list" then record["person.lists"] |= [to["list_id"]]
        when "unlist" then record["person.lists"] -= [to["list_id"]]
        when "owner" then record["person.owner"] = to["owner_id"]
        when "standing" then record["person.standing"] = to["standing"]
        when "field" then record[to["field"]] = value(to["field"], to["value"])
        end
      end

      def value(key, value)
        field = @moment.catalogue[key]
        (field&.type == :date && value.is_a?(String)) ? Date.iso8601(value) : value
      end
    end
  end
end
