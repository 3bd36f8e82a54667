# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Merge fields typed as text: {{first name}} or {{first name|there}}.
      class TypedFields
        PATTERN = /\{\{\s*([^{}|]{1,80}?)\s*(?:\|([^{}]{0,200}))?\}\}/

        # @return [Hash] a document node
        def self.node(field, fallback)
          fallback = fallback.to_s.strip
          {"type" => "mergeField", "attrs" => {"field" => field.key, "fallback" => fallback.empty? ? nil : fallback[0, 200]}}
        end

        def initialize(catalogue)
          @catalogue = catalogue
        end

        # @param text [String]
        # @return [Array<String, Hash>] pieces of text and merge field nodes, in order
        # @raise [Invalid] when a name is not in the catalogue
        def split(text, at = nil)
          return [text] unless text.include?("{{")

          pieces, rest = [], text
          while (found = PATTERN.match(rest))
            field = @catalogue.named(found[1])
            raise unknown(found[1], at) unless field&.for?(:merge)

            pieces << found.pre_match << self.class.node(field, found[2])
            rest = found.post_match
          end
          (pieces << rest).reject { |piece| piece == "" }
        end

        # @return [Invalid] naming the wrong field and the nearest right one
        def unknown(name, at)
          near = @catalogue.nearest(name)
          Invalid.new("There is no field “#{name.to_s[0, 60]}”.", code: :unknown_field, at: at,
            hint: near ? "Did you mean “#{near.label.downcase}”?" : "Pick one from the menu of fields.",
            data: {name: name, nearest: near&.key})
        end
      end
    end
  end
end
