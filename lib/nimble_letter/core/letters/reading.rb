# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Reads the JSON of a document: keeps what is known, refuses what is not, and says where.
      class Reading
        MOST_MARKS = 20
        SHOWN_LETTERS = 60

        # @param line [Boolean] only one line of words
        def initialize(catalogue, at, line: false)
          @catalogue, @at, @line = catalogue, at, line
          @typed = TypedFields.new(catalogue)
        end

        # @return [Hash] the cleaned root
        # @raise [Invalid]
        def root(json)
          wrong("A letter's text is a document", @at) unless json.is_a?(Hash) && json["type"] == "doc"
          @bytes = @nodes = 0
          {"type" => "doc", "content" => blocks(json, @at, 1, 0)}
        end

        private

        def children_of(node, at, depth)
          wrong("The text is nested too deep", at) if depth > Document::MAX_DEPTH
          children = node["content"] || []
          wrong("This needs a list", "#{at}.content") unless children.is_a?(Array)
          counted(children.size)
          children.each_with_index do |child, i|
            wrong("Every part of a document is an object", "#{at}.content[#{i}]") unless child.is_a?(Hash)
          end
        end

        def counted(more)
          @nodes += more
          return if @nodes <= Document::MAX_NODES

          raise Invalid.new("A letter may have #{Document::MAX_NODES} parts; this one has more.", code: :letter_too_long, at: @at)
        end

        # @param nested [Integer] conditional passages around it
        def blocks(node, at, depth, nested)
          taken = @line ? %w[paragraph] : Nodes::HOLDS.fetch(node["type"])
          children_of(node, at, depth).each_with_index.map do |child, i|
            here = "#{at}.content[#{i}]"
            wrong("A letter cannot hold a #{shown(child["type"])} here", "#{here}.type") unless taken.include?(child["type"])
            block(child, here, depth + 1, nested)
          end
        end

        def block(node, at, depth, nested)
          kind = node["type"]
          made = {"type" => kind}
          attrs = attrs_of(kind, node["attrs"] || {}, "#{at}.attrs", nested)
          made["attrs"] = attrs if attrs
          if Nodes::INLINE.include?(kind) then made["content"] = inline(node, at, depth)
          elsif Nodes::HOLDS.key?(kind)
            made["content"] = blocks(node, at, depth, nested + ((kind == "conditional") ? 1 : 0))
            count(made, at)
          end
          made
        end

        def count(made, at)
          needed = {"columns" => Nodes::COLUMNS, "conditional" => 2}[made["type"]]
          wrong("This needs #{needed} parts", "#{at}.content") if needed && made["content"].size != needed
        end

        def attrs_of(kind, attrs, at, nested)
          wrong("This needs an object", at) unless attrs.is_a?(Hash)
          case kind
          when "heading" then {"level" => attrs["level"].is_a?(Integer) ? attrs["level"].clamp(1, 3) : 2}
          when "picture"
            {
              "picture_id" => number(attrs["picture_id"], "#{at}.picture_id"),
              "alt" => words(attrs["alt"], "#{at}.alt"),
              "href" => address(attrs["href"], "#{at}.href"),
              "width" => attrs["width"].is_a?(Integer) ? attrs["width"].clamp(10, 100) : 100
            }
          when "button" then {"href" => address(attrs["href"], "#{at}.href")}
          when "passage" then {"passage_id" => number(attrs["passage_id"], "#{at}.passage_id")}
          when "conditional"
            wrong("A passage for some people may stand in another one, no deeper", at) if nested >= Nodes::CONDITIONAL_DEPTH
            Conditions::Parser.new(@catalogue, uses: %i[condition passage]).parse!(attrs["condition"])
            {"condition" => attrs["condition"] || {}}
          end
        end

        def number(given, at) = given.is_a?(Integer) ? given : wrong("This needs a number", at)

        # @return [Array<Hash>] text and merge fields of an alt text or an address
        def words(given, at)
          given = [{"type" => "text", "text" => given}] if given.is_a?(String) && !given.empty?
          given = [] if given.nil? || given == ""
          inline({"content" => given}, at, 1)
            .reject { |node| node["type"] == "hardBreak" }
            .map { |node| node.slice("type", "text", "attrs") }
        end

        def address(given, at)
          words(given, at).tap do |nodes|
            text = nodes.map { |node| node["text"] || "x" }.join.strip
            link_unclear(text, at) unless text.empty? || nodes.first["type"] == "mergeField" || text.match?(Document::LINK_SCHEMES)
          end
        end

        # @return [Array<Hash>] typed fields split a text into several
        def inline(node, at, depth)
          children_of(node, at, depth).each_with_index.flat_map do |child, i|
            here = "#{at}.content[#{i}]"
            case child["type"]
            when "text" then text(child, here)
            when "hardBreak" then [{"type" => "hardBreak"}]
            when "mergeField" then [merge_field(child, here)]
            else wrong("A letter cannot hold a #{shown(child["type"])} here", "#{here}.type")
            end
          end
        end

        def text(node, at)
          words = node["text"]
          wrong("This needs text", "#{at}.text") unless words.is_a?(String)
          @bytes += words.bytesize
          if @bytes > Document::MAX_BYTES
            raise Invalid.new(
              "A letter may hold #{Document::MAX_BYTES / 1024} kB of text; this one is longer.",
              code: :letter_too_long,
              at: @at
            )
          end
          marks = marks(node, at)
          parts = @typed.split(words)
          counted(parts.size - 1)
          parts.map do |part|
            part = {"type" => "text", "text" => part} if part.is_a?(String)
            marks.any? ? part.merge("marks" => marks) : part
          end
        end

        def marks(node, at)
          given = node["marks"] || []
          wrong("This needs a list", "#{at}.marks") unless given.is_a?(Array)
          wrong("This has too many marks", "#{at}.marks") if given.size > MOST_MARKS
          given.filter_map.with_index do |mark, i|
            kind = mark.is_a?(Hash) && mark["type"]
            next unless Nodes::MARKS.include?(kind)

            (kind == "link") ? link(mark, "#{at}.marks[#{i}]") : {"type" => kind}
          end
        end

        def link(mark, at)
          href = mark.dig("attrs", "href").to_s.strip
          link_unclear(href, at) unless LinkAddress.clear?(href)
          known_in_link!(href, at)
          title = Values.clean(mark.dig("attrs", "title").to_s)
          {"type" => "link", "attrs" => {"href" => href, **(title ? {"title" => title[0, 200]} : {})}}
        end

        # A field is put into an address when a letter is written; one that nobody knows would go out as it stands.
        def known_in_link!(href, at)
          name = LinkAddress.unknown_field(href, @catalogue) or return
          near = @catalogue.nearest(name)
          raise Invalid.new(
            "There is no field “#{name[0, 60]}” to put into this link.",
            code: :unknown_field,
            at: at,
            hint: near ? "Did you mean “#{near.label.downcase}”?" : "Choose one of the merge fields."
          )
        end

        def link_unclear(href, at)
          raise Invalid.new(
            "A link leads to an address that begins with https://, http://, mailto: or tel:, not #{href[0, 60].inspect}.",
            code: :link_unclear,
            at: at
          )
        end

        # A field that was retired after the letter used it is in the catalogue still.
        def merge_field(node, at)
          attrs = node["attrs"].is_a?(Hash) ? node["attrs"] : {}
          field = @catalogue[attrs["field"]]
          wrong("There is no field #{shown(attrs["field"])}", "#{at}.attrs.field") unless field&.for?(:merge)
          made = TypedFields.node(field, attrs["fallback"], attrs["form"])
          marks = marks(node, at)
          marks.any? ? made.merge("marks" => marks) : made
        end

        # What was sent may be of any length.
        def shown(value) = value.to_s[0, SHOWN_LETTERS].inspect

        def wrong(message, at) = raise(Invalid.new("#{message}.", code: :letter_unclear, at: at))
      end
    end
  end
end
