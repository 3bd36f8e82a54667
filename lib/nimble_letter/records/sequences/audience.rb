# frozen_string_literal: true

module NimbleLetter
  module Records
    # The people one sequence is for: any mix of a condition, filters, lists, tags, single people and members of an earlier
    # sequence, minus exclusions of the same kinds. Each person once, nobody from the bin.
    class Audience
      KEYS = %w[filter_id condition filters lists tags people members without without_filters without_lists without_tags].freeze

      Part = Struct.new(:json, :tree)
      private_constant :Part

      attr_reader :json

      # @param json [Hash] condition (Hash), filter_id or filters (Integers), lists (Integers), tags (Strings), people (Integers),
      #   members (Array of Hashes: a membership test), without (person ids), without_filters, without_lists, without_tags
      # @param sql [ConditionSql]
      # @param parser [#call] for a Core::Conditions::Parser; where only single people are meant it is not asked for
      # @param among [Sequel::Dataset] the filters that the asker may see: one that is not among them does not exist for them
      # @raise [Invalid, NotFound]
      def initialize(json, sql:, parser: -> { FieldCatalogue.parser }, among: SavedFilter.dataset)
        @json, @sql, @parser, @among = (json || {}).slice(*KEYS), sql, parser, among
        @tree = whole_tree
        left_out # says at once what is gone
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

      # @return [Hash, nil] the condition that all of them fit and nobody else; nil when people were picked or left out one by one
      def condition
        return if tree.nil? || ids("people").any? || ids("without").any?

        meant = (@parts.size == 1) ? @parts.first.json : {"any" => @parts.map(&:json)}
        left_out.empty? ? meant : {"all" => [meant, *left_out.map { |part| {"not" => part.json} }]}
      end

      # @return [Array<Object>] condition trees of those who are left out
      def without = left_out.map(&:tree)

      # A condition on nothing would be everybody; an audience has to be said.
      def said? = (!tree.nil? && tests?(tree)) || ids("people").any?

      def filter_ids = [@json["filter_id"], *ids("filters")].compact.uniq

      # @return [Array<SavedFilter>] those it uses, for whom it is and for whom it is not
      def used_filters = @among.where(id: filter_ids | ids("without_filters")).order(:name).all

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
        parts = filters(filter_ids)
        parts << part(@json["condition"]) if @json["condition"]
        parts.concat(worn("lists", ids("lists")) + worn("tags", ids("tags")))
        parts.concat((@json["members"] || []).map { |member| part(member) })
        # An empty condition beside a list would be everybody and drown the list.
        said = parts.select { |part| tests?(part.tree) }
        @parts = said.any? ? said : parts
        (@parts.size < 2) ? @parts.first&.tree : Core::Conditions::Nodes::Any.new(parts: @parts.map(&:tree))
      end

      def left_out
        @left_out ||= filters(ids("without_filters")) + worn("lists", ids("without_lists")) + worn("tags", ids("without_tags"))
      end

      def part(json) = Part.new(json, (@reader ||= @parser.call).parse!(json))

      # @return [Array<Part>] one test, or none
      def worn(field, values) = values.empty? ? [] : [part({"field" => "person.#{field}", "is" => "one_of", "value" => values})]

      # @return [Array<Part>]
      def filters(wanted)
        return [] if wanted.empty?

        kept = @among.where(id: wanted).as_hash(:id)
        wanted.map do |id|
          filter = kept[id] or raise NotFound.new("This filter is gone.", at: "audience.filter_id", hint: "Choose another.")
          part(filter.condition)
        end
      end
    end
  end
end
