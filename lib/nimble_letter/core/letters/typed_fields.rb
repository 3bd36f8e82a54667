# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Merge fields typed or pasted as text: {{first name}} or {{first name|there}}, and the notations that other writing
      # comes in: [First name], {first name}, «First name», <<First name>>, %FIRST_NAME%, ${first_name}.
      class TypedFields
        # White space around a name is taken off afterwards: a pattern that skips it on both sides takes the square of its
        # length to find that there is no end.
        PATTERN = /\{\{([^{}|]{1,100})(?:\|([^{}]{0,200}))?\}\}/
        # Taken for a field only when they name one: brackets are also just brackets.
        PASTED = Regexp.union(
          PATTERN,
          /\$\{([^{}]{1,80})\}/,
          /\{([^{}]{1,80})\}/,
          /\[([^\[\]]{1,80})\]/,
          /«([^«»]{1,80})»/,
          /<<([^<>]{1,80})>>/,
          /%([A-Za-z_][A-Za-z0-9_ .]{1,58})%/
        )
        FALLBACK = 2 # the group of PATTERN and PASTED that holds it
        MAX_FALLBACK = 200

        # @return [Hash] a document node
        def self.node(field, fallback, form = nil)
          fallback = fallback.to_s.strip
          {
            "type" => "mergeField",
            "attrs" => {
              "field" => field.key,
              "fallback" => fallback.empty? ? nil : fallback[0, MAX_FALLBACK],
              "form" => (form if Forms.for(field).include?(form))
            }
          }
        end

        # @return [Array<String>] what stands between {{ and }} in a text
        def self.names(text) = text.include?("{{") ? text.scan(PATTERN).map { |name, _| name.strip } : []

        # @param text [String] an address with {{fields}}
        # @return [Array<Hash>] text and merge field nodes
        def self.nodes(text, catalogue)
          new(catalogue).split(text).map { |piece| piece.is_a?(String) ? {"type" => "text", "text" => piece} : piece }
        end

        def initialize(catalogue)
          @catalogue = catalogue
        end

        # @param text [String]
        # @param pasted [Boolean] from elsewhere, where other notations are in use
        # @return [Array<String, Hash>] pieces of text and merge field nodes, in order; a name that no field has stays text,
        #   so that nothing typed is ever refused
        def split(text, pasted: false)
          pattern = pasted ? PASTED : PATTERN
          return [text] unless pasted || text.include?("{{")

          pieces, rest = [+""], text
          while (found = pattern.match(rest))
            field = field_named(found)
            pieces.last << found.pre_match
            field ? pieces.push(self.class.node(field, found[FALLBACK]), +"") : pieces.last << found[0]
            rest = found.post_match
          end
          pieces.last << rest
          pieces.reject { |piece| piece == "" }
        end

        # @param name [String]
        # @return [Fields::Field, nil] what was probably meant
        def nearest(name) = @catalogue.nearest(name)

        private

        def field_named(found)
          # Group 1 or, of the other notations, any after the fallback.
          name = found[1] || found.captures.drop(FALLBACK).compact.first
          @catalogue.named(name)&.then { |field| field if field.for?(:merge) }
        end
      end
    end
  end
end
