# frozen_string_literal: true

module NimbleLetter
  module Records
    # The people one sequence is for: a saved filter or a condition, single people, minus exclusions.
    class Audience
      KEYS = %w[filter_id condition people without].freeze

      attr_reader :json

      # @param json [Hash] filter_id (Integer), condition (Hash), people and without (Arrays of person ids)
      # @param sql [ConditionSql]
      # @raise [Invalid, NotFound]
      def initialize(json, sql:)
        @json, @sql = (json || {}).slice(*KEYS), sql
        @tree = read_tree
      end

      # @return [Object, nil] the condition tree, nil when only single people are meant
      attr_reader :tree

      # @return [Sequel::Dataset] of people, each once
      def people
        found = tree ? Sequel.expr(@sql.read(tree)) : ConditionSql::NEVER
        found = Sequel.|(found, {Sequel[:people][:id] => ids("people")}) if ids("people").any?
        matching = Person.dataset.where(found)
        ids("without").any? ? matching.exclude(Sequel[:people][:id] => ids("without")) : matching
      end

      # A condition on nothing would be everybody; an audience has to be said.
      def said? = (!tree.nil? && tests?(tree)) || ids("people").any?

      private

      def ids(key) = @json[key] || []

      def tests?(node)
        case node
        when Core::Conditions::Nodes::All, Core::Conditions::Nodes::Any then node.parts.any? { |part| tests?(part) }
        when Core::Conditions::Nodes::Not then tests?(node.part)
        else true
        end
      end

      def read_tree
        parser = Core::Conditions::Parser.new
        if @json["filter_id"]
          filter = SavedFilter[@json["filter_id"]] or raise NotFound.new("This filter is gone.", at: "audience.filter_id", hint: "Choose another.")
          parser.parse!(filter.condition)
        elsif @json["condition"]
          parser.parse!(@json["condition"])
        end
      end
    end
  end
end
