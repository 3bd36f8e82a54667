# frozen_string_literal: true

require "nokogiri"
require "set"

module NimbleLetter
  module Files
    # Reads HTML from anywhere (a web page, a word processor, another mail program) as the nodes of a letter: words, emphasis,
    # headings, lists, quotes, links. Scripts, hidden text, styles and addresses that run something do not come along.
    class LetterHtml
      MOST_BYTES = 4 * 1024 * 1024
      MOST_NODES = 5000 # ten pages out of a word processor have two thousand
      DROPPED = %w[
        script
        style
        head
        title
        meta
        link
        iframe
        object
        embed
        form
        input
        button
        select
        textarea
        svg
        math
        template
        noscript
        audio
        video
        canvas
      ].to_set.freeze
      HEADINGS = {"h1" => 1, "h2" => 2, "h3" => 3, "h4" => 3, "h5" => 3, "h6" => 3}.freeze
      BLOCKS = %w[
        p
        div
        section
        article
        header
        footer
        main
        aside
        nav
        address
        center
        figure
        figcaption
        table
        tbody
        thead
        tfoot
        tr
        td
        th
        dl
        dt
        dd
        pre
        fieldset
        body
        html
      ].to_set.freeze
      # What somebody does not see must not be in what they send.
      HIDING = Regexp.union(
        /display\s*:\s*none/i,
        /visibility\s*:\s*hidden/i,
        /(font-size|max-height|opacity)\s*:\s*0(?![.\d])/i,
        /mso-hide\s*:\s*all/i
      )
      # Word processors write lists as paragraphs with a class, and the bullet as text to be ignored.
      LIST_CLASS = /\bMsoList|\bmsolist/i
      IGNORED = /mso-list\s*:\s*Ignore/i
      BULLET = /\A[\s\u00a0]*(?:[·•▪◦o§-]|\d+[.)])[\s\u00a0]+/

      # @param catalogue [Core::Fields::Catalogue] whose names are recognised in common notations
      def initialize(catalogue)
        @catalogue, @typed = catalogue, Core::Letters::TypedFields.new(catalogue)
      end

      # @param html [String]
      # @return [String] "" for none
      # @raise [Invalid]
      def title(html) = parsed(html).at("title")&.text.to_s

      # @param html [String]
      # @return [Hash] a document, still to be parsed
      # @raise [Invalid]
      def read(html)
        root = parsed(html).at("body")
        if root.xpath("count(.//node())") > MOST_NODES
          raise Invalid.new("This has more than #{MOST_NODES} parts; it is no letter.", code: :letter_too_long)
        end

        blocks = blocks_of(root)
        {"type" => "doc", "content" => blocks.empty? ? [{"type" => "paragraph"}] : blocks}
      end

      private

      def parsed(html)
        if html.bytesize > MOST_BYTES
          raise Invalid.new(
            "This is #{html.bytesize / 1024 / 1024} MB; a letter takes #{Core::Letters::Document::MAX_BYTES / 1024} kB of text.",
            code: :letter_too_long
          )
        end

        Nokogiri::HTML5.parse(html.scrub(""), max_tree_depth: 600, max_attributes: 200)
      rescue ArgumentError => error
        raise Invalid.new("This HTML cannot be read: #{error.message[0, 100]}.", code: :html_unclear)
      end

      # @return [Array<Hash>] block nodes
      def blocks_of(node, marks = [])
        blocks, words = [], []
        flush = lambda do
          content = tidy(words)
          blocks << {"type" => "paragraph", "content" => content} if content.any?
          words = []
        end
        node.children.each do |child|
          if (block = block(child, marks))
            flush.call
            blocks.concat(block)
          else
            words.concat(inline(child, marks))
          end
        end
        flush.call
        lists_of(blocks)
      end

      # @return [Array<Hash>, nil] nil for what is part of a line
      def block(node, marks)
        return unless node.element?
        return [] if dropped?(node)

        name = node.name
        if HEADINGS.key?(name)
          words(node, marks).then do |content|
            content.empty? ? [] : [{"type" => "heading", "attrs" => {"level" => HEADINGS[name]}, "content" => content}]
          end
        elsif %w[ul ol].include?(name)
          list(node, marks)
        elsif name == "blockquote"
          [{"type" => "quote", "content" => plain(blocks_of(node, marks))}].reject { |quote| quote["content"].empty? }
        elsif name == "hr"
          [{"type" => "divider"}]
        elsif node["class"].to_s.match?(LIST_CLASS)
          words(node, marks).then { |content| content.empty? ? [] : [{"type" => "item", "content" => without_bullet(content)}] }
        elsif BLOCKS.include?(name) || holds_blocks?(node)
          blocks_of(node, marked(node, marks))
        end
      end

      def holds_blocks?(node) =
        node.element_children.any? do |child|
          BLOCKS.include?(child.name) || HEADINGS.key?(child.name) || %w[ul ol blockquote hr].include?(child.name) || holds_blocks?(child)
        end

      def list(node, marks)
        items =
          node
            .element_children
            .reject { |child| dropped?(child) }
            .map { |item| {"type" => "listItem", "content" => in_item(blocks_of(item, marks))} }
            .reject { |item| item["content"].empty? }
        if items.empty?
          []
        else
          [{"type" => (node.name == "ol") ? "orderedList" : "bulletList", "content" => items}]
        end
      end

      # Where only paragraphs and lists may stand, the rest becomes them.
      def plain(blocks)
        blocks.flat_map do |block|
          case block["type"]
          when "heading" then [{"type" => "paragraph", "content" => block["content"]}]
          when "quote" then block["content"]
          when "divider" then []
          else [block]
          end
        end
      end
      alias_method :in_item, :plain

      # Neighbouring items of a word processor's list become one list.
      def lists_of(blocks)
        blocks.chunk_while { |one, other| one["type"] == "item" && other["type"] == "item" }.flat_map do |some|
          next some unless some.first["type"] == "item"

          [
            {
              "type" => "bulletList",
              "content" =>
                some.map { |item| {"type" => "listItem", "content" => [{"type" => "paragraph", "content" => item["content"]}]} }
            }
          ]
        end
      end

      def without_bullet(content)
        first, *rest = content
        return content unless first["type"] == "text"

        text = first["text"].sub(BULLET, "")
        text.empty? ? rest : [first.merge("text" => text), *rest]
      end

      def dropped?(node)
        return true if DROPPED.include?(node.name) || node.key?("hidden")

        style = node["style"]
        !style.nil? && (style.match?(HIDING) || style.match?(IGNORED))
      end

      def words(node, marks) = tidy(node.children.flat_map { |child| inline(child, marks) })

      # @return [Array<Hash>] text, breaks and merge fields
      def inline(node, marks)
        if node.text? then text(node.text, marks)
        elsif !node.element? || dropped?(node) then []
        elsif node.name == "br" then [{"type" => "hardBreak"}]
        else
          within = marked(node, marks)
          node.children.flat_map { |child| inline(child, within) }
        end
      end

      def text(words, marks)
        @typed.split(words.gsub(/[[:space:]]+/, " "), pasted: true).map do |piece|
          node = piece.is_a?(String) ? {"type" => "text", "text" => piece} : piece
          marks.empty? ? node : node.merge("marks" => marks)
        end
      end

      def marked(node, marks)
        style = node["style"].to_s
        made = []
        if (%w[b strong].include?(node.name) && !style.match?(/font-weight\s*:\s*(normal|400)/i)) ||
            style.match?(/font-weight\s*:\s*(bold|[6-9]00)/i)
          made << {"type" => "bold"}
        end
        made << {"type" => "italic"} if %w[i em].include?(node.name) || style.match?(/font-style\s*:\s*italic/i)
        href = Core::Letters::LinkAddress.from_elsewhere(node["href"].to_s, @catalogue) if node.name == "a"
        if href
          made << {"type" => "link", "attrs" => {"href" => href, **(node["title"] ? {"title" => node["title"]} : {})}}
        end
        (marks + made).uniq { |mark| mark["type"] }
      end

      # Spaces at the ends of a line, and doubled at the seams, say nothing.
      def tidy(nodes)
        nodes = nodes.drop_while { |node| blank?(node) }.reverse.drop_while { |node| blank?(node) }.reverse
        nodes.each_with_index.filter_map do |node, i|
          next node unless node["type"] == "text"

          text = node["text"]
          text = text.lstrip if i.zero? || nodes[i - 1]["type"] == "hardBreak" || nodes[i - 1]["text"]&.end_with?(" ")
          text = text.rstrip if i == nodes.size - 1 || nodes[i + 1]["type"] == "hardBreak"
          node.merge("text" => text) unless text.empty?
        end
      end

      def blank?(node) = node["type"] == "hardBreak" || (node["type"] == "text" && node["text"].strip.empty?)
    end
  end
end
