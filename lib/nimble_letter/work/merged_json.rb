# frozen_string_literal: true

module NimbleLetter
  module Work
    # A merged letter as the screen draws it: the same tree the HTML is written from, never HTML itself.
    module MergedJson
      # @param merged [Core::Letters::Merge::Merged]
      # @return [Hash]
      def self.write(merged)
        {subject: runs(merged.subject), preview: runs(merged.preview), gaps: merged.gaps,
         blocks: merged.blocks.map { |block| {kind: block.kind.to_s, runs: runs(block.runs), items: (block.items || []).map { |item| runs(item) }, ordered: block.ordered || false} }}
      end

      def self.runs(runs)
        runs.map do |run|
          label = run.field && Records::FieldCatalogue.current[run.field].label
          {kind: run.kind.to_s, text: run.text, field: run.field, label: label, marks: run.marks, href: run.href}
        end
      end
      private_class_method :runs
    end
  end
end
