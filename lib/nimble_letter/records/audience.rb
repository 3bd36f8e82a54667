# frozen_string_literal: true

module NimbleLetter
  module Records
    # The people one sequence is for: any mix of a condition, filters, lists, single people and members of an earlier
    # sequence, minus exclusions of the same kinds. Each person once, nobody from the bin.
    class Audience
      KEYS = %w[filter_id condition filters lists people members without without_filters without_lists].freeze

      attr_reader :json

      # @param json [Hash] condition (Hash), filter_id or filters (Integers), lists (Integers), people (Integers),
      #   members (Array of Hashes: a membership test), without (person ids), without_filters, without_lists
      # @param sql [ConditionSql]
      # @raise [Invalid, NotFound]
      def initialize(json, sql:)
        @json, @sql = (json || {}).slice(*KEYS), sql
        @parser = FieldCatalogue.parser
        @tree = whole_tree
      end

      # @return [Object, nil] the condition tree of all but single people; nil when only single people are meant
      attr_reader :tree

      # @return [Sequel::Dataset] of people
      def people
        found = tree ? Sequel.expr(@sql.read(tree)) : ConditionSql::NEVER
        found = Sequel.|(found, {Sequel[:people][:id] => ids("people")}) if ids("people").any?
        matching = Person.kept.where(found)
        matching = matching.exclude(Sequel[:people][:id] => ids("without")) if ids("without").any?
        without.inject(matching) { |left, part| left.exclude(@sql.read(part)) }
      end

      # @return [Array<Object>] condition trees of those who are left out
      def without
        @without ||= trees_of_filters(ids("without_filters")) + (ids("without_lists").any? ? [lists(ids("without_lists"))] : [])
      end

      # A condition on nothing would be everybody; an audience has to be said.
      def said? = (!tree.nil? && tests?(tree)) || ids("people").any?

      def filter_ids = [@json["filter_id"], *ids("filters")].compact.uniq

      private

      def ids(key) = @json[key] || []

      def tests?(node)
        case node
        when Core::Conditions::Nodes::All, Core::Conditions::Nodes::Any then node.parts.any? { |part| tests?(part) }
        when Core::Conditions::Nodes::Not then tests?(node.part)
        else true
        end
      end

      def whole_tree
        parts = trees_of_filters(filter_ids)
        parts << @parser.parse!(@json["condition"]) if @json["condition"]
        parts << lists(ids("lists")) if ids("lists").any?
        parts.concat((@json["members"] || []).map { |member| @parser.parse!(member) })
        # An empty condition beside a list would be everybody and drown the list.
        said = parts.select { |part| tests?(part) }
        parts = said if said.any?
        (parts.size < 2) ? parts.first : Core::Conditions::Nodes::Any.new(parts: parts)
      end

      def lists(ids) = @parser.parse!({"field" => "person.lists", "is" => "one_of", "value" => ids})

      def trees_of_filters(wanted)
        kept = SavedFilter.where(id: wanted).as_hash(:id)
        wanted.map do |id|
          filter = kept[id] or raise NotFound.new("This filter is gone.", at: "audience.filter_id", hint: "Choose another.")
          @parser.parse!(filter.condition)
        end
      end
    end
  end
end
