# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # The body of a letter as a tree of typed nodes, in the JSON the editor speaks. Only what is listed
      # here gets in, so nothing that could run or hide in a mail program is ever stored.
      class Document
        BLOCKS = %w[paragraph heading bulletList orderedList listItem].freeze
        MARKS = %w[bold italic link].freeze
        LINK_SCHEMES = %r{\A(https?://|mailto:)[^\s<>"]+\z}i
        MAX_BYTES = 512 * 1024
        MAX_DEPTH = 12
        WORDS_A_MINUTE = 220 # silent reading of plain English

        attr_reader :root

        # @param json [Hash] {"type" => "doc", "content" => […]}
        # @param catalogue [Fields::Catalogue]
        # @return [Document] with typed {{names}} turned into merge fields
        # @raise [Invalid] with the path of the wrong node in `at`
        def self.parse!(json, at: "body", catalogue: Fields::Standard.catalogue)
          new(Reading.new(catalogue, at).root(json), catalogue)
        end

        # @param text [String] one line per paragraph, `{{field}}` or `{{field|fallback}}` for merge fields
        # @return [Document]
        def self.from_text(text, at: "body", catalogue: Fields::Standard.catalogue)
          paragraphs = text.to_s.split(/\n{2,}/).map do |paragraph|
            lines = paragraph.split("\n").map { |line| line.empty? ? [] : [{"type" => "text", "text" => line}] }
            content = lines.inject { |all, line| all + [{"type" => "hardBreak"}] + line } || []
            {"type" => "paragraph", "content" => content}
          end
          parse!({"type" => "doc", "content" => paragraphs}, at: at, catalogue: catalogue)
        end

        # @param catalogue [Fields::Catalogue] the names of its fields
        def initialize(root, catalogue = Fields::Standard.catalogue)
          @root, @catalogue = root.freeze, catalogue
          freeze
        end

        def blocks = root["content"]

        # @return [Array<Hash>] merge field nodes in reading order
        def merge_fields = each_node.select { |node| node["type"] == "mergeField" }

        # @return [Array<String>] addresses linked to, in reading order, each once
        def links = each_node.flat_map { |node| (node["marks"] || []).filter_map { |mark| mark.dig("attrs", "href") } }.uniq

        # @return [Boolean] nothing to read in it
        def empty? = each_node.none? { |node| node["type"] == "mergeField" || !node["text"].to_s.strip.empty? }

        # @return [String] words with fields by name, for lists and searching
        def summary
          blocks.map { |block| words(block) }.reject(&:empty?).join(" ")
        end

        # @return [Integer] at least 1
        def reading_minutes = [summary.split.size.fdiv(WORDS_A_MINUTE).ceil, 1].max

        def to_h = root

        def ==(other) = other.is_a?(Document) && other.root == root
        alias_method :eql?, :==

        def hash = root.hash

        private

        def each_node(node = root, &block)
          return enum_for(:each_node, node) unless block

          yield node
          (node["content"] || []).each { |child| each_node(child, &block) }
        end

        def words(node)
          case node["type"]
          when "text" then node["text"]
          when "mergeField" then "[#{@catalogue[node.dig("attrs", "field")].label.downcase}]"
          else (node["content"] || []).map { |child| words(child) }.join
          end
        end
      end
    end
  end
end
