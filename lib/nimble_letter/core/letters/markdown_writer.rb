# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Writes a merged letter as Markdown (CommonMark 0.31), for other programs and for reading.
      class MarkdownWriter
        SPECIAL = /[\\`*_\[\]<>#]/
        # Some readers see a table in these; within a field's braces they part its name from its fallback.
        OUTSIDE_FIELDS = /[\\`*_\[\]<>#|]/
        FIELD = /(\{\{[^{}]*\}\})/
        # What makes a list, a line, a heading or a block of code of a paragraph that begins with it.
        NUMBER_START = /^( *\d+)([.)])(?=\s|\z)/
        MARK_START = /^( *)(?=[-+=:])/
        FENCE_START = /^( *)~(?=~~)/ # not every reader takes an escaped one
        ENTITY = /&(?=#?\w+;)/

        # @param picture [#call] id to an address, or nil
        def initialize(picture: ->(_id) {})
          @picture = picture
        end

        # @param merged [Merged]
        # @return [String]
        def write(merged) = "#{merged.blocks.map { |block| block(block) }.reject(&:empty?).join("\n\n")}\n"

        private

        def block(block)
          case block.kind
          when :heading then "#{"#" * block.attrs[:level]} #{words(block.runs)}"
          when :list then list(block)
          when :quote then inside(block).gsub(/^/, "> ")
          when :divider then "---"
          when :picture then picture(block)
          when :button then block.attrs[:href] ? "[#{words(block.runs)}](#{address(block.attrs[:href])})" : words(block.runs)
          when :columns, :column, :item then inside(block)
          when :signature, :footer then ""
          else words(block.runs)
          end
        end

        def inside(block, joint = "\n\n") = block.blocks.map { |child| block(child) }.reject(&:empty?).join(joint)

        def list(block)
          block.blocks.each_with_index.map do |item, i|
            mark = block.attrs[:ordered] ? "#{i + 1}. " : "- "
            "#{mark}#{inside(item, "\n").gsub("\n", "\n#{" " * mark.size}")}"
          end.join("\n")
        end

        def picture(block)
          image = "![#{escaped(TextWriter.line(block.attrs[:alt]))}](#{@picture.call(block.attrs[:picture_id])})"
          block.attrs[:href] ? "[#{image}](#{address(block.attrs[:href])})" : image
        end

        def words(runs)
          runs.map { |run| run(run) }.join.gsub(NUMBER_START, '\1\\\\\2').gsub(MARK_START, '\1\\\\').gsub(FENCE_START, '\1&#126;')
        end

        def run(run)
          return "  \n" if run.kind == :break

          text = escaped(run.text)
          text = wrapped(text, "**") if run.marks.include?("bold")
          text = wrapped(text, "*") if run.marks.include?("italic")
          run.href ? "[#{text}](#{address(run.href)})" : text
        end

        def escaped(text)
          parts = text.split(FIELD).map { |part| part.gsub(part.start_with?("{{") ? SPECIAL : OUTSIDE_FIELDS) { |found| "\\#{found}" } }
          parts.join.gsub(ENTITY, "&amp;")
        end

        # An address with brackets of its own, or with spaces in a field, stands in pointed ones.
        def address(href) = href.match?(/[()\s]/) ? "<#{href}>" : href

        # Spaces stay outside, or the mark would not count as one.
        def wrapped(text, mark)
          words = text.strip
          return text if words.empty?

          before, after = text[/\A\s*/], text[text.rstrip.length..]
          "#{before}#{mark}#{words}#{mark}#{after}"
        end
      end
    end
  end
end
