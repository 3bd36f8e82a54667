# frozen_string_literal: true

require "erb"

module NimbleLetter
  module Core
    module Letters
      # Brings a letter together with the facts of one person. Pure: the same facts give the same letter.
      class Merge
        Run = Merged::Run
        Block = Merged::Block
        # A line of one's own: its words, and the summary of the block it stands after (nil: after the first).
        Line = Struct.new(:words, :after)

        NONE = [].freeze
        NO_ATTRS = {}.freeze
        BREAK = Run.new(:break, "\n", nil, NONE).freeze
        NOBODY = ->(_condition) { false }
        MAX_PASSAGES_WITHIN = 5 # passages are checked for circles when they are saved; this bounds what slipped through

        # @param subject [Document] a single line
        # @param preview [Document] a single line
        # @param body [Document]
        # @param catalogue [Fields::Catalogue]
        # @param passages [Hash{Integer=>Hash{String=>Hash}}] documents by passage and language; "" is the one for all others
        # @param language [String] the letter's own
        def initialize(subject:, preview:, body:, catalogue: Fields::Standard.catalogue, passages: {}, language: "en")
          @subject, @preview, @body = subject, preview, body
          @catalogue, @passages, @language = catalogue, passages, language
        end

        # @param facts [Hash{String=>Object}] values by field key, as records hold them
        # @param shown [#call] a condition's JSON to whether it holds for this person
        # @param line [Line, nil] goes in after its place
        # @param filled [Hash{String=>String}] values for this letter only, by field key
        # @return [Merged]
        def call(facts, shown: NOBODY, line: nil, filled: {})
          @facts, @shown, @filled, @gaps, @sides = facts, shown, filled, [], {}
          @reader, @locale = facts["person.language"], Locale.for(@language)
          subject, preview = line(@subject), line(@preview)
          blocks, lost = with_line(line)
          Merged.new(subject, preview, blocks, @gaps.uniq, @sides, lost, @locale.language)
        end

        private

        def line(document) = document.blocks.flat_map { |block| runs(block["content"]) }.reject { |run| run.kind == :break }

        # @return [Array(Array<Block>, Boolean)] the blocks with the line of one's own, and whether its place is gone
        def with_line(line)
          return [@body.blocks.flat_map { |node| block(node) }, false] if line.nil? || line.words.to_s.strip.empty?

          place = @body.blocks.index { |node| Summary.of(node, @catalogue) == line.after } if line.after
          lost = !line.after.nil? && place.nil?
          blocks = @body.blocks.each_with_index.flat_map do |node, i|
            made = block(node)
            (i == (place || 0)) ? [*made, personal(line.words.strip)] : made
          end
          [blocks.empty? ? [personal(line.words.strip)] : blocks, lost]
        end

        def personal(text)
          runs = text.split(/\r?\n/).flat_map { |words| [BREAK, Run.new(:text, words, nil, NONE)] }.drop(1)
          Block.new(:personal, runs, NONE, NO_ATTRS)
        end

        # @return [Array<Block>] a passage gives several, or none
        def block(node)
          attrs = node["attrs"]
          case node["type"]
          when "paragraph"
            [Block.new(:paragraph, runs(node["content"]), NONE, NO_ATTRS)]
          when "heading"
            [Block.new(:heading, runs(node["content"]), NONE, {level: attrs ? attrs["level"] : 2})]
          when "bulletList", "orderedList"
            [Block.new(:list, NONE, node["content"].map { |item| holder(:item, item) }, {ordered: node["type"] == "orderedList"})]
          when "quote"
            [holder(:quote, node)]
          when "columns"
            [Block.new(:columns, NONE, node["content"].map { |column| holder(:column, column) }, NO_ATTRS)]
          when "links"
            [Block.new(:links, runs(node["content"]), NONE, NO_ATTRS)]
          when "divider", "signature", "footer"
            [Block.new(node["type"].to_sym, NONE, NONE, NO_ATTRS)]
          when "button"
            [Block.new(:button, runs(node["content"]), NONE, {href: address(attrs["href"])})]
          when "picture"
            [picture(attrs)]
          when "conditional"
            side(node)
          when "passage"
            passage(attrs["passage_id"])
          end
        end

        def holder(kind, node) = Block.new(kind, NONE, (node["content"] || NONE).flat_map { |child| block(child) }, NO_ATTRS)

        def picture(attrs)
          Block.new(
            :picture,
            NONE,
            NONE,
            {
              picture_id: attrs["picture_id"],
              alt: runs(attrs["alt"]),
              width: attrs["width"],
              href: attrs["href"].empty? ? nil : address(attrs["href"])
            }
          )
        end

        # Only the side that is read can have gaps.
        def side(node)
          condition = node["attrs"]["condition"]
          holds = @sides[condition] = @shown.call(condition) ? true : false
          (node["content"][holds ? 0 : 1]["content"] || NONE).flat_map { |child| block(child) }
        end

        # In the reader's language if there is one, and then with its dates and numbers.
        def passage(id)
          languages = @passages[id] or return NONE
          language = languages.key?(@reader) ? @reader : ""
          document = languages[language]
          return NONE if document.nil? || (@within = (@within || 0) + 1) > MAX_PASSAGES_WITHIN

          before, @locale = @locale, (language == "") ? @locale : Locale.for(language)
          document["content"].flat_map { |node| block(node) }
        ensure
          @locale = before if before
          @within -= 1 if document
        end

        def runs(nodes)
          return NONE unless nodes

          nodes.map do |node|
            case node["type"]
            when "text" then text_run(node)
            when "hardBreak" then BREAK
            else field_run(node)
            end
          end
        end

        def text_run(node)
          marks = node["marks"]
          return Run.new(:text, node["text"], nil, NONE) unless marks

          Run.new(:text, node["text"], nil, *marked(marks))
        end

        # @return [Array(Array<String>, String, String)] marks, address and title of the link
        def marked(marks)
          link = marks.find { |mark| mark["type"] == "link" }
          href = link&.dig("attrs", "href")
          href = address(TypedFields.nodes(href, @catalogue)) if href&.include?("{{")
          [marks.map { |mark| mark["type"] } - ["link"], href, link&.dig("attrs", "title")]
        end

        def field_run(node)
          attrs = node["attrs"]
          key = attrs["field"]
          marks = node["marks"] ? marked(node["marks"]) : [NONE]
          value = value_of(key, attrs["form"])
          return Run.new(:merged, value, key, *marks) if value
          return Run.new(:fallback, attrs["fallback"], key, *marks) if attrs["fallback"]

          @gaps << key
          Run.new(:gap, "", key, *marks)
        end

        def value_of(key, form)
          field = @catalogue[key] or return
          Forms.say(field, @filled[key], form, @locale) || Forms.say(field, @facts[key], form, @locale)
        end

        # What is put into an address is written as part of one, unless it is the whole of it.
        # @return [String, nil] nil when it leads nowhere
        def address(nodes)
          runs = runs(nodes)
          return if runs.empty?

          href = if runs.size == 1 then runs.first.text
          else
            runs.map { |run| (run.kind == :text) ? run.text : ERB::Util.url_encode(run.text) }.join
          end
          href = "https://#{href}" if runs.first.kind == :merged && !href.match?(/\A[a-z]+:/i)
          return href if href.match?(Document::LINK_SCHEMES)

          runs.each { |run| @gaps << run.field if run.kind == :merged }
          nil
        end
      end
    end
  end
end
