# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # A letter for nobody in particular: its fields stand there as {{first name|there}}, as one could type them, and text for
      # some people between marks that say for whom. For files that cannot carry a condition: what is for some is never for all.
      class Placeholders < Merge
        # @param say [#call] a condition's JSON to "everyone who …"
        def initialize(say:, **rest)
          super(**rest)
          @say = say
        end

        # @return [Merged]
        def call = super({})

        private

        # Both sides, each with a mark in front of it, and one where they end.
        def side(node)
          first, other = node["content"].map { |side| (side["content"] || NONE).flat_map { |child| block(child) } }
          marked = [mark(FileMarks.begins(@say.call(node["attrs"]["condition"]))), *first]
          marked += [mark(FileMarks.goes_on), *other] if other&.any?
          marked << mark(FileMarks.ends)
        end

        def mark(words) = Block.new(:paragraph, [Run.new(:text, words, nil, %w[bold])], NONE, NO_ATTRS)

        def field_run(node)
          attrs = node["attrs"]
          name = @catalogue[attrs["field"]]&.label&.downcase || attrs["field"]
          Run.new(:text, "{{#{[name, attrs["fallback"]].compact.join("|")}}}", nil, *(node["marks"] ? marked(node["marks"]) : [NONE]))
        end

        def address(nodes) = nodes.empty? ? nil : runs(nodes).map(&:text).join
      end
    end
  end
end
