# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Writes a merged letter as plain text that reads well on its own. Links stand after their words.
      class TextWriter
        RULE = "* * *"

        # @return [String] lines end in "\n"
        def self.write(merged, signature: [], foot: nil) = new(signature, foot).write(merged)

        # @return [String] runs as one line, for a subject or a title
        def self.line(runs) = runs.map { |run| (run.kind == :break) ? " " : run.text }.join.gsub(/\s+/, " ").strip

        # @param signature [Array<Merged::Block>]
        # @param foot [Foot, nil]
        def initialize(signature, foot)
          @signature, @foot = signature, foot
        end

        # @param merged [Merged]
        def write(merged)
          blocks = merged.blocks
          parts = blocks.map { |block| block(block) }
          parts << signature unless blocks.any? { |block| block.kind == :signature }
          parts << foot unless blocks.any? { |block| block.kind == :footer }
          "#{parts.compact.reject(&:empty?).join("\n\n")}\n"
        end

        private

        def block(block)
          case block.kind
          when :list then list(block)
          when :quote then inside(block).gsub(/^/, "> ")
          when :divider then RULE
          when :picture then picture(block)
          when :button then block.attrs[:href] ? "#{words(block.runs)}: #{block.attrs[:href]}" : words(block.runs)
          when :columns, :column, :item then inside(block)
          when :signature then signature
          when :footer then foot
          else words(block.runs)
          end
        end

        def inside(block, joint = "\n\n") = block.blocks.map { |child| block(child) }.reject(&:empty?).join(joint)

        def list(block)
          block.blocks.each_with_index.map do |item, i|
            mark = block.attrs[:ordered] ? "#{i + 1}." : "-"
            "#{mark} #{inside(item, "\n").gsub("\n", "\n#{" " * (mark.size + 1)}")}"
          end.join("\n")
        end

        def picture(block)
          alt = self.class.line(block.attrs[:alt])
          [(alt unless alt.empty?)&.then { |words| "[#{words}]" }, block.attrs[:href]].compact.join(" ")
        end

        def words(runs)
          return runs.first.text if runs.size == 1 && !runs.first.href

          runs.map { |run| (run.href && run.href != run.text) ? "#{run.text} (#{run.href})" : run.text }.join
        end

        def signature = @signature.map { |block| block(block) }.join("\n\n")

        # RFC 3676 4.3: two dashes and a space divide the letter from what is below every letter.
        def foot =
          @foot && "-- \n#{[@foot.address, @foot.unsubscribe_url && "#{@foot.words}: #{@foot.unsubscribe_url}"].compact.join("\n")}"
      end
    end
  end
end
