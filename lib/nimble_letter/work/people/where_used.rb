# frozen_string_literal: true

module NimbleLetter
  module Work
    # Which filters, sequences and letters speak of a filter, list, tag or field, so that nothing breaks silently.
    module WhereUsed
      # @return [Array<Hash>] kind, id, name and, of a sequence, state
      def self.filter(filter)
        sequences { |audience| [audience["filter_id"], *audience["filters"], *audience["without_filters"]].include?(filter.id) }
      end

      def self.list(list)
        sequences do |audience|
          [*audience["lists"], *audience["without_lists"]].include?(list.id) || says?(audience, "person.lists", list.id)
        end + filters { |condition| says?(condition, "person.lists", list.id) } + written { |json| says?(json, "person.lists", list.id) }
      end

      def self.tag(tag)
        fold = ->(value) { Core::Fold.call(value) == tag.name_fold }
        sequences do |audience|
          [*audience["tags"], *audience["without_tags"]].any? { |name| fold.call(name) } || says?(audience, "person.tags", fold)
        end + filters { |condition| says?(condition, "person.tags", fold) } + written { |json| says?(json, "person.tags", fold) }
      end

      def self.passage(passage) = passages.fetch(passage.id, [])

      def self.picture(picture) = pictures.fetch(picture.id, [])

      # @return [Hash{Integer=>Array<Hash>}] uses of all passages by number, read in one go
      def self.passages = named("passage_id")

      # @return [Hash{Integer=>Array<Hash>}] uses of all pictures by number
      def self.pictures = named("picture_id")

      # @raise [Invalid] naming what would break
      def self.refuse_if_used!(kind, name, uses)
        return if uses.empty?

        raise Invalid.new(
          "The #{kind} “#{name}” is used by #{uses.map { |use| "“#{use[:name]}”" }.first(4).join(", ")}.",
          code: :in_use,
          hint: "Change #{(uses.size == 1) ? "it" : "them"} first.",
          data: {used_in: uses}
        )
      end

      # By whom they are for, and by what people join them.
      def self.sequences
        rules = Records::JoinRule.all.group_by(&:sequence_id)
        joining = ->(one) { rules.fetch(one.id, []).map { |rule| RuleAudience.of(rule) } }
        Records::Sequence
          .order(:name)
          .all
          .select { |one| [one.audience, *joining.call(one)].any? { |audience| yield audience } }
          .map { |one| {kind: "sequence", id: one.id, name: one.name, state: one.state} }
      end
      private_class_method :sequences

      def self.filters
        Records::SavedFilter
          .order(:name)
          .all
          .select { |one| yield one.condition }
          .map { |one| {kind: "filter", id: one.id, name: one.name} }
      end
      private_class_method :filters

      # Letters and passages whose text the block says yes to.
      def self.written = texts.filter_map { |use, json| use if yield json }
      private_class_method :written

      # @return [Array<Array(Hash, Hash)>] each letter and passage with its text
      def self.texts
        [[Records::Letter, :body], [Records::Passage, :documents]].flat_map do |model, column|
          model
            .order(:name)
            .all
            .map { |one| [{kind: model.name.split("::").last.downcase, id: one.id, name: one.name}, one.public_send(column)] }
        end
      end
      private_class_method :texts

      def self.named(name)
        texts.each_with_object(Hash.new { |all, id| all[id] = [] }) do |(use, json), all|
          values(json, name).uniq.each { |id| all[id] << use }
        end
      end
      private_class_method :named

      # @return [Array<Object>] all values under a name, anywhere in a tree of JSON
      def self.values(json, name)
        case json
        when Hash then [json[name], *json.values.flat_map { |part| values(part, name) }].compact
        when Array then json.flat_map { |part| values(part, name) }
        else []
        end
      end
      private_class_method :values

      # Looks through a tree of JSON for a test on a field with a value.
      def self.says?(json, key, value)
        case json
        when Hash
          (json["field"] == key && Array(json["value"]).any? { |one| value === one }) || json.any? { |_, part| says?(part, key, value) }
        when Array
          json.any? { |part| says?(part, key, value) }
        else
          false
        end
      end
      private_class_method :says?
    end
  end
end
