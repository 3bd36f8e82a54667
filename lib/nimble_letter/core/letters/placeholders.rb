# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # A letter for nobody in particular: its fields stand there as {{first name|there}}, as one could type them. For files.
      class Placeholders < Merge
        # @return [Merged]
        def call = super({}, shown: ->(_condition) { true })

        private

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
