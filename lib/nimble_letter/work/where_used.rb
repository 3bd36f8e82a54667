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
        sequences { |audience| [*audience["lists"], *audience["without_lists"]].include?(list.id) || says?(audience, "person.lists", list.id) } +
          filters { |condition| says?(condition, "person.lists", list.id) }
      end

      def self.tag(tag)
        fold = ->(value) { Core::Fold.call(value) == tag.name_fold }
        sequences { |audience| [*audience["tags"], *audience["without_tags"]].any? { |name| fold.call(name) } || says?(audience, "person.tags", fold) } + filters { |condition| says?(condition, "person.tags", fold) }
      end

      def self.passage(passage)
        letters { |letter| letter.document(:body).passage_ids.include?(passage.id) } +
          Records::Passage.order(:name).all.select { |one| one.passage_ids.include?(passage.id) }.map { |one| {kind: "passage", id: one.id, name: one.name} }
      end

      def self.picture(picture)
        letters { |letter| letter.document(:body).picture_ids.include?(picture.id) } +
          Records::Passage.order(:name).all.select { |one| one.picture_ids.include?(picture.id) }.map { |one| {kind: "passage", id: one.id, name: one.name} }
      end

      # @raise [Invalid] naming what would break
      def self.refuse_if_used!(kind, name, uses)
        return if uses.empty?

        raise Invalid.new("The #{kind} “#{name}” is used by #{uses.map { |use| "“#{use[:name]}”" }.first(4).join(", ")}.", code: :in_use,
          hint: "Change #{(uses.size == 1) ? "it" : "them"} first.", data: {used_in: uses})
      end

      def self.sequences
        Records::Sequence.order(:name).all.select { |one| yield one.audience }.map { |one| {kind: "sequence", id: one.id, name: one.name, state: one.state} }
      end
      private_class_method :sequences

      def self.filters
        Records::SavedFilter.order(:name).all.select { |one| yield one.condition }.map { |one| {kind: "filter", id: one.id, name: one.name} }
      end
      private_class_method :filters

      def self.letters
        Records::Letter.order(:name).all.select { |one| yield one }.map { |one| {kind: "letter", id: one.id, name: one.name} }
      end
      private_class_method :letters

      # Looks through a tree of JSON for a test on a field with a value.
      def self.says?(json, key, value)
        case json
        when Hash then (json["field"] == key && Array(json["value"]).any? { |one| value === one }) || json.any? { |_, part| says?(part, key, value) }
        when Array then json.any? { |part| says?(part, key, value) }
        else false
        end
      end
      private_class_method :says?
    end
  end
end
