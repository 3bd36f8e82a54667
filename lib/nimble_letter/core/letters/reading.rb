# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Reads the JSON of a document: keeps what is known, refuses what is not, and says where.
      class Reading
        def initialize(catalogue, at)
          @catalogue, @at = catalogue, at
          @typed = TypedFields.new(catalogue)
        end

        # @return [Hash] the cleaned root
        # @raise [Invalid]
        def root(json)
          wrong("A letter's text is a document", @at) unless json.is_a?(Hash) && json["type"] == "doc"
          @bytes = 0
          {"type" => "doc", "content" => content(json, @at, 1)}
        end

        private

        def content(node, at, depth)
          wrong("The text is nested too deep", at) if depth > Document::MAX_DEPTH
          children = node["content"] || []
          wrong("This needs a list", "#{at}.content") unless children.is_a?(Array)
          children.each_with_index.flat_map { |child, i| child(child, "#{at}.content[#{i}]", depth) }
        end

        # @return [Array<Hash>] usually one node; typed fields split a text into several
        def child(node, at, depth)
          wrong("Every part of a document is an object", at) unless node.is_a?(Hash)
          case node["type"]
          when "text" then text(node, at)
          when "hardBreak" then [{"type" => "hardBreak"}]
          when "mergeField" then [merge_field(node, at)]
          when "heading" then [{"type" => "heading", "attrs" => {"level" => 2}, "content" => content(node, at, depth + 1)}]
          when *Document::BLOCKS then [{"type" => node["type"], "content" => content(node, at, depth + 1)}]
          else wrong("A letter cannot hold a #{node["type"].inspect}", "#{at}.type")
          end
        end

        def text(node, at)
          words = node["text"]
          wrong("This needs text", "#{at}.text") unless words.is_a?(String)
          @bytes += words.bytesize
          if @bytes > Document::MAX_BYTES
            raise Invalid.new("A letter may hold #{Document::MAX_BYTES / 1024} kB of text; this one is longer.", code: :letter_too_long, at: @at)
          end
          marks = marks(node, at)
          @typed.split(words, at).map do |part|
            part = {"type" => "text", "text" => part} if part.is_a?(String)
            (marks.any? && part["type"] == "text") ? part.merge("marks" => marks) : part
          end
        end

        def marks(node, at)
          given = node["marks"] || []
          wrong("This needs a list", "#{at}.marks") unless given.is_a?(Array)
          given.filter_map.with_index do |mark, i|
            kind = mark.is_a?(Hash) && mark["type"]
            next unless Document::MARKS.include?(kind)

            (kind == "link") ? link(mark, "#{at}.marks[#{i}]") : {"type" => kind}
          end
        end

        def link(mark, at)
          href = mark.dig("attrs", "href").to_s.strip
          unless href.match?(Document::LINK_SCHEMES)
            raise Invalid.new("A link leads to an address that begins with https://, http:// or mailto:, not #{href[0, 60].inspect}.", code: :link_unclear, at: at)
          end
          {"type" => "link", "attrs" => {"href" => href}}
        end

        def merge_field(node, at)
          attrs = node["attrs"] || {}
          field = @catalogue[attrs["field"]]
          raise @typed.unknown(attrs["field"], at) unless field&.for?(:merge)

          TypedFields.node(field, attrs["fallback"])
        end

        def wrong(message, at) = raise(Invalid.new("#{message}.", code: :letter_unclear, at: at))
      end
    end
  end
end
