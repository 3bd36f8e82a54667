# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # A block in words, its fields by name: for lists, searching, and to find a place in a letter again.
      module Summary
        # @param node [Hash]
        # @return [String]
        def self.of(node, catalogue)
          case node["type"]
          when "text" then node["text"]
          when "hardBreak" then " "
          when "mergeField" then "[#{name(node["attrs"]["field"], catalogue)}]"
          when "picture" then (node["attrs"]["alt"] || []).map { |child| of(child, catalogue) }.join
          else
            children = node["content"] || []
            joint = Nodes::INLINE.include?(node["type"]) ? "" : " "
            children.map { |child| of(child, catalogue) }.reject(&:empty?).join(joint)
          end
        end

        def self.name(key, catalogue) = catalogue[key]&.label&.downcase || key
        private_class_method :name
      end
    end
  end
end
