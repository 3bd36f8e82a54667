# frozen_string_literal: true

module NimbleLetter
  module Work
    # A merged letter as screens have it: its two lines as runs, what is missing, and which sides of its passages are read.
    # The body is shown as the HTML itself (docs/decisions/0013).
    module MergedJson
      # @param merged [Core::Letters::Merged]
      # @param catalogue [Core::Fields::Catalogue] handed in: asking for it once a letter would cost more than the letter
      # @param unanswered [String, nil] why an outside service had nothing to say
      # @return [Hash]
      def self.write(merged, catalogue, unanswered: nil)
        {
          subject: runs(merged.subject, catalogue),
          preview: runs(merged.preview, catalogue),
          gaps: gaps(merged.gaps, catalogue),
          sides: sides(merged),
          line_lost: merged.line_lost,
          unanswered: unanswered
        }
      end

      # @param keys [Array<String>]
      def self.gaps(keys, catalogue) = keys.map { |key| {field: key, label: catalogue[key]&.label || key} }

      def self.runs(runs, catalogue)
        runs.map do |run|
          label = run.field && catalogue[run.field]&.label
          {kind: run.kind.to_s, text: run.text, field: run.field, label: label, marks: run.marks, href: run.href}
        end
      end
      private_class_method :runs

      def self.sides(merged) = merged.sides.map { |condition, holds| {condition: condition, holds: holds} }
      private_class_method :sides
    end
  end
end
