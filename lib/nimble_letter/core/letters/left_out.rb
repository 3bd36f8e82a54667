# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # What of a letter cannot go along in a file that is text for other programs (Markdown, HTML, a message), in words. Our own JSON
      # carries everything.
      module LeftOut
        TEXTS = %w[md html eml].freeze
        # By what is counted: one and many.
        WORDS = {
          "conditional" => ["the condition of one part, which comes back for nobody until you say for whom it is",
            "the conditions of %d parts, which come back for nobody until you say for whom they are"],
          "form" => ["how one field is written", "how %d fields are written"],
          "passage" => ["which passage one part is", "which passages %d parts are"],
          "button" => ["the look of one button, which is a link", "the look of %d buttons, which are links"],
          "picture" => ["one picture, of which the address goes along", "%d pictures, of which the addresses go along"],
          "columns" => ["that one part has columns", "that %d parts have columns"]
        }.freeze

        # @param documents [Array<Document>] of the letter and of the passages in it
        # @param format [String] "json" or one of TEXTS
        # @param language [String, nil] the letter's own
        # @param attachments [Array<String>] names
        # @return [Array<String>]
        def self.of(documents, format, language: nil, attachments: [])
          return [] unless TEXTS.include?(format)

          nodes = documents.flat_map { |document| document.each_node.to_a }
          counts = nodes.map { |node| kind(node) }.tally
          lost = WORDS.select { |name, _| counts[name] }.map do |name, (one, many)|
            (counts[name] == 1) ? one : Kernel.format(many, counts[name])
          end
          lost << "its language" if language
          lost << "the #{(attachments.size == 1) ? "file" : "files"} #{attachments.join(", ")}" if attachments.any? && format != "eml"
          lost
        end

        def self.kind(node) = (node["type"] == "mergeField") ? (node["attrs"]["form"] && "form") : node["type"]
        private_class_method :kind
      end
    end
  end
end
