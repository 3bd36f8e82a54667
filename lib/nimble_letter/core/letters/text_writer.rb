# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Writes a merged letter as plain text that reads well on its own. Links stand after their words.
      module TextWriter
        # @return [String] lines end in "\n"
        def self.write(merged, signature: [], foot: nil)
          parts = merged.blocks.map { |block| block(block) }
          parts << signature.join("\n") if signature.any?
          parts << "-- \n#{[foot.address, foot.unsubscribe_url && "#{foot.unsubscribe_words}: #{foot.unsubscribe_url}"].compact.join("\n")}" if foot
          "#{parts.reject(&:empty?).join("\n\n")}\n"
        end

        # @return [String] runs as one line, for a subject or a title
        def self.line(runs) = runs.map { |run| (run.kind == :break) ? " " : run.text }.join.gsub(/\s+/, " ").strip

        def self.block(block)
          return block.items.each_with_index.map { |item, i| "#{block.ordered ? "#{i + 1}." : "-"} #{words(item)}" }.join("\n") if block.kind == :list

          words(block.runs)
        end
        private_class_method :block

        def self.words(runs)
          runs.map { |run| (run.href && run.href != run.text) ? "#{run.text} (#{run.href})" : run.text }.join
        end
        private_class_method :words
      end
    end
  end
end
