# frozen_string_literal: true

require "diff/lcs"

module NimbleLetter
  module Work
    # Two versions of a letter or a passage, word by word: what went, what came.
    module CompareVersions
      # Shown even where nothing differs.
      ALWAYS = ["body", Records::Passage::ANY].freeze

      # @param one [Hash{String=>Object}] content of a version
      # @param other [Hash{String=>Object}]
      # @return [Array<Hash>] for each part that differs, and the text: part (of a passage: the language), and pieces {kind: "same",
      #   "gone" or "new", text}
      def self.call(one, other, catalogue)
        one, other = parts(one), parts(other)
        (one.keys | other.keys).filter_map do |part|
          before, after = [one, other].map { |content| words(content[part], catalogue) }
          next if before == after && !ALWAYS.include?(part)

          {part: part, pieces: pieces(before, after)}
        end
      end

      # The texts of a passage stand beside its name.
      def self.parts(content) = content.except("documents").merge(content.fetch("documents", {}))
      private_class_method :parts

      def self.words(value, catalogue)
        text = value.is_a?(Hash) ? value["content"].map { |block| Core::Letters::Summary.of(block, catalogue) }.join("\n\n") : value.to_s
        text.scan(/\s+|[^\s]+/)
      end
      private_class_method :words

      # Neighbours of a kind are one piece, so that a changed sentence reads as one change.
      def self.pieces(before, after)
        all = Diff::LCS.sdiff(before, after).flat_map do |change|
          case change.action
          when "=" then [["same", change.old_element]]
          when "-" then [["gone", change.old_element]]
          when "+" then [["new", change.new_element]]
          else [["gone", change.old_element], ["new", change.new_element]]
          end
        end
        all.chunk_while { |(one, _), (other, _)| one == other }.map { |same| {kind: same.first.first, text: same.map(&:last).join} }
      end
      private_class_method :pieces
    end
  end
end
