# frozen_string_literal: true

require "set"

module NimbleLetter
  module Work
    # Who of some people sees which side of a letter's conditional passages. The database answers for all of them at once;
    # only what came from outside services is asked in memory.
    class ShownTo
      # @param conditions [Array<Hash>] their JSON
      # @param facts [Hash{Integer=>Hash{String=>Object}}] by person, lookups among them
      def initialize(conditions, facts, moment)
        @facts, @moment = facts, moment
        parser = Core::Conditions::Parser.new(moment.catalogue, uses: %i[condition passage])
        @people = conditions.to_h { |json| [json, matching(parser.parse!(json))] }
      end

      # @return [Boolean]
      def holds?(condition, person_id) = @people.fetch(condition).include?(person_id)

      # @return [Integer]
      def count(condition) = @people.fetch(condition).size

      private

      def everybody = @everybody ||= @facts.keys.to_set

      # @return [Set<Integer>]
      def matching(node)
        return in_records(node) unless outside?(node)

        case node
        when Core::Conditions::Nodes::All then node.parts.map { |part| matching(part) }.inject(everybody, :&)
        when Core::Conditions::Nodes::Any then node.parts.map { |part| matching(part) }.inject(Set.new, :|)
        when Core::Conditions::Nodes::Not then everybody - matching(node.part)
        else everybody.select { |id| @moment.memory.match?(node, @facts[id]) }.to_set
        end
      end

      def outside?(node)
        case node
        when Core::Conditions::Nodes::All, Core::Conditions::Nodes::Any then node.parts.any? { |part| outside?(part) }
        when Core::Conditions::Nodes::Not then outside?(node.part)
        when Core::Conditions::Nodes::FieldTest then node.field.table.nil? && node.field.for?(:passage)
        end
      end

      def in_records(node)
        everybody.each_slice(5000).flat_map { |some| Records::Person.where(id: some).where(@moment.sql.read(node)).select_map(:id) }.to_set
      end
    end
  end
end
