# frozen_string_literal: true

module NimbleLetter
  module Records
    # The content of one e-mail. Its name is ours and never the subject.
    class Letter < Sequel::Model(:letters)
      extend JsonColumn
      include Versioned

      json_column :subject, :preview, :body

      many_to_one :account
      one_to_many :steps

      PARTS = %i[subject preview body].freeze

      # @param part [Symbol] one of PARTS
      # @return [Core::Letters::Document] trusted: it was checked on its way in
      def document(part) = Core::Letters::Document.new(public_send(part), @fields ||= FieldCatalogue.current)

      # @return [Core::Letters::Merge]
      def merge = Core::Letters::Merge.new(**PARTS.to_h { |part| [part, document(part)] })

      # @return [Array<String>] keys of merge fields that have no fallback
      def fields_without_fallback
        PARTS.flat_map { |part| document(part).merge_fields }.reject { |node| node.dig("attrs", "fallback") }.map { |node| node.dig("attrs", "field") }.uniq
      end
    end
  end
end
