# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # A part of a letter as a tree of typed nodes, in the JSON the editor speaks. Only what Nodes lists gets in, so
      # nothing that could run or hide in a mail program is ever stored.
      class Document
        LINK_SCHEMES = %r{\A(https?://|mailto:|tel:)[^\s<>"]+\z}i
        MAX_BYTES = 512 * 1024
        MAX_DEPTH = 14
        MAX_NODES = 10_000 # a long letter has some hundreds
        WORDS_A_MINUTE = 220 # silent reading of plain English
        EMPTY = {"type" => "doc", "content" => [{"type" => "paragraph"}]}.freeze

        attr_reader :root

        # @param json [Hash] {"type" => "doc", "content" => […]}
        # @param catalogue [Fields::Catalogue]
        # @param at [String] how errors name this part
        # @param line [Boolean] one line without blocks, such as a subject
        # @return [Document] with typed {{names}} turned into merge fields
        # @raise [Invalid] with the path of the wrong node in `at`
        def self.parse!(json, at: "body", catalogue: Fields::Standard.catalogue, line: false)
          new(Reading.new(catalogue, at, line: line).root(json), catalogue)
        end

        # @param text [String] one line per paragraph, `{{field}}` or `{{field|fallback}}` for merge fields
        # @return [Document]
        def self.from_text(text, at: "body", catalogue: Fields::Standard.catalogue)
          paragraphs = text.to_s.split(/\n{2,}/).map do |paragraph|
            content =
              paragraph.split("\n").each_with_index.flat_map do |line, i|
                [({"type" => "hardBreak"} if i.positive?), ({"type" => "text", "text" => line} unless line.empty?)].compact
              end
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

        # Where a letter could have gaps: merge fields without a fallback, each with what must hold for a reader to come by.
        # @return [Array<Array(String, Array<Hash>)>] field key and conditions, negated where it is the other side
        def gap_places = places_within(root, [])

        # @return [Array<Hash>] the conditions its passages ask, each once
        def conditions = each_node.select { |node| node["type"] == "conditional" }.map { |node| node["attrs"]["condition"] }.uniq

        # @return [Array<Integer>] passages it refers to
        def passage_ids = attrs_of("passage", "passage_id")

        # @return [Array<Integer>]
        def picture_ids = attrs_of("picture", "picture_id")

        # @return [Integer] links, buttons and pictures that lead somewhere
        def links =
          each_node.count { |node| (node["marks"] || []).any? { |mark| mark["type"] == "link" } || node["attrs"]&.[]("href")&.any? }

        # @return [Array<String>] names between {{ and }} that no field has, as they were typed
        def unknown_names = each_node.flat_map { |node| (node["type"] == "text") ? TypedFields.names(node["text"]) : [] }.uniq

        # @return [Boolean] nothing to read in it
        def empty? = each_node.none? { |node| %w[mergeField picture passage].include?(node["type"]) || !node["text"].to_s.strip.empty? }

        # @return [String] words with fields by name, for lists and searching
        def summary = blocks.map { |block| Summary.of(block, @catalogue) }.reject(&:empty?).join(" ")

        # @return [Integer] at least 1
        def reading_minutes = [summary.split.size.fdiv(WORDS_A_MINUTE).ceil, 1].max

        def each_node(&block)
          return enum_for(:each_node) unless block

          Nodes.each(root) do |node|
            yield node
            in_link(node).each(&block)
          end
        end

        def to_h = root

        def ==(other) = other.is_a?(Document) && other.root == root
        alias_method :eql?, :==

        def hash = root.hash

        private

        # @return [Array<Hash>] merge fields in the address that a text leads to
        def in_link(node)
          link = node["marks"]&.find { |mark| mark["type"] == "link" } or return []
          href = link.dig("attrs", "href").to_s
          href.include?("{{") ? TypedFields.nodes(href, @catalogue).select { |one| one["type"] == "mergeField" } : []
        end

        def places_within(node, path)
          attrs = node["attrs"]
          here = (node["type"] == "mergeField" && !attrs["fallback"]) ? [[attrs["field"], path]] : []
          within = (attrs && %w[alt href].flat_map { |name| attrs[name].is_a?(Array) ? attrs[name] : [] }) || []
          if node["type"] == "conditional"
            sides = [attrs["condition"], {"not" => attrs["condition"]}]
            return node["content"].zip(sides).flat_map { |side, asked| places_within(side, [*path, asked]) }
          end
          here + (within + in_link(node) + (node["content"] || [])).flat_map { |child| places_within(child, path) }
        end

        def attrs_of(type, name) = each_node.select { |node| node["type"] == type }.map { |node| node["attrs"][name] }.uniq
      end
    end
  end
end
