# frozen_string_literal: true

module NimbleLetter
  module Work
    # A merged letter as screens have it: its two lines as runs, what is missing, and which sides of its passages are read.
    # The body is shown as the HTML itself (docs/decisions/0013).
    module MergedJson
      # @param merged [Core::Letters::Merged]
      # @param unanswered [String, nil] why an outside service had nothing to say
      # @return [Hash]
      def self.write(merged, unanswered: nil)
        {subject: runs(merged.subject), preview: runs(merged.preview), gaps: gaps(merged.gaps), sides: sides(merged), line_lost: merged.line_lost, unanswered: unanswered}
      end

      # @param keys [Array<String>]
      def self.gaps(keys) = keys.map { |key| {field: key, label: Records::FieldCatalogue.current[key]&.label || key} }

      def self.runs(runs)
        runs.map do |run|
          label = run.field && Records::FieldCatalogue.current[run.field]&.label
          {kind: run.kind.to_s, text: run.text, field: run.field, label: label, marks: run.marks, href: run.href}
        end
      end
      private_class_method :runs

      def self.sides(merged) = merged.sides.map { |condition, holds| {condition: condition, holds: holds} }
      private_class_method :sides
    end
  end
end
