# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # The lines that stand in a file for what it cannot carry: for whom a part is. They are written by Placeholders and found again when
      # the file comes back. The condition itself is not in them, so such a part is for nobody until somebody says for whom.
      module FileMarks
        FOR_SOME = "Only for %s:"
        FOR_OTHERS = "For everybody else:"
        FOR_ALL = "For everybody again:"
        # As every reader of a condition understands it.
        NOBODY = {"not" => {"all" => []}}.freeze

        BEGINS = /\A\s*\[Only for .+:\]\s*\z/m
        GOES_ON = /\A\s*\[#{FOR_OTHERS}\]\s*\z/
        ENDS = /\A\s*\[#{FOR_ALL}\]\s*\z/
        # What may stand in a part for some.
        HELD = Nodes::HOLDS.fetch("side")

        # @param who [String] "everyone who lives in York"
        # @return [String]
        def self.begins(who) = "[#{format(FOR_SOME, who)}]"

        def self.goes_on = "[#{FOR_OTHERS}]"

        def self.ends = "[#{FOR_ALL}]"

        # @param node [Hash] of a document
        def self.mark?(node) = [BEGINS, GOES_ON, ENDS].any? { |pattern| words(node).match?(pattern) }

        # Holds back what a file says is for some people only, with the marks that say so; without an end, all that follows.
        # @param document [Hash] a document's root, still to be parsed
        # @return [Hash]
        def self.hold(document)
          depth, held, blocks = 0, [], []
          (document["content"] || []).each do |node|
            begins, ends = words(node).match?(BEGINS), words(node).match?(ENDS)
            depth += 1 if begins
            # Both sides: who "everybody else" is says the condition alone.
            depth = 1 if depth.zero? && words(node).match?(GOES_ON)
            ((depth.positive? && HELD.include?(node["type"])) ? held : blocks) << node
            depth -= 1 if ends && depth.positive?
            flush(held, blocks) if depth.zero?
          end
          flush(held, blocks)
          document.merge("content" => blocks)
        end

        def self.flush(held, blocks)
          return if held.empty?

          sides = [{"type" => "side", "content" => held.dup}, {"type" => "side", "content" => [{"type" => "paragraph"}]}]
          blocks << {"type" => "conditional", "attrs" => {"condition" => NOBODY}, "content" => sides}
          held.clear
        end
        private_class_method :flush

        def self.words(node)
          return "" unless Nodes::TEXT_BLOCKS.include?(node["type"])

          (node["content"] || []).map { |child| child["text"] || ((child["type"] == "hardBreak") ? "\n" : "x") }.join
        end
        private_class_method :words
      end
    end
  end
end
