# frozen_string_literal: true

module NimbleLetter
  module Records
    # The content of one e-mail. Its name is ours and never the subject.
    class Letter < Sequel::Model(:letters)
      extend JsonColumn
      include Versioned

      json_column :subject, :preview, :body, :set_aside

      many_to_one :account
      one_to_many :steps
      one_to_many :attachments, order: :id, conditions: {out_at: nil}

      PARTS = %i[subject preview body].freeze
      MANNERS = %w[plain designed].freeze
      # Whom it is written for: anybody, or somebody with a deal, whose fields it may then name.
      ABOUT = %w[anybody deal].freeze
      # What a version keeps, and what goes from program to program.
      CONTENT = [:name, *PARTS, :manner, :category, :language, :about].freeze

      dataset_module do
        def kept = where(archived_at: nil)
      end

      def before_save
        set(words: Core::Fold.call([name, category, *PARTS.map { |part| document(part).summary }].compact.join(" ")))
        super
      end

      # @param part [Symbol] one of PARTS
      # @param catalogue [Core::Fields::Catalogue] handed in where many are read
      # @return [Core::Letters::Document] trusted: it was checked on its way in
      def document(part, catalogue = FieldCatalogue.current) = Core::Letters::Document.new(public_send(part), catalogue)

      def designed? = manner == "designed"

      def for_deal? = about == "deal"

      # @return [Hash{Integer=>Hash}] documents of the passages in it, and of those within them
      def passages(catalogue = FieldCatalogue.current) = Passage.documents(document(:body, catalogue).passage_ids)

      # @param subject [Hash, nil] another one, for the second version of a step
      # @return [Core::Letters::Merge]
      def merge(subject: nil)
        catalogue = FieldCatalogue.current
        parts =
          {subject: subject || self.subject, preview: preview, body: body}.transform_values do |json|
            Core::Letters::Document.new(json, catalogue)
          end
        Core::Letters::Merge.new(**parts, catalogue: catalogue, passages: passages, language: language)
      end

      # @return [Array<Core::Letters::Document>] everything that may be read in it
      def documents(catalogue = FieldCatalogue.current) =
        PARTS.map { |part| document(part, catalogue) } +
          passages(catalogue).values.flat_map(&:values).map { |json| Core::Letters::Document.new(json, catalogue) }

      # @param content [Hash{String=>Object}] see #content
      # @return [Hash{String=>String}] what one reads in each of its parts
      def self.words_of(content) = content.slice(*PARTS.map(&:to_s)).transform_values { |json| Core::Letters::Document.new(json).summary }

      # @return [Hash{Symbol=>Object}]
      def content = CONTENT.to_h { |name| [name, public_send(name)] }
    end
  end
end
