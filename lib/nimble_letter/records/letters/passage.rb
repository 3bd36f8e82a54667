# frozen_string_literal: true

module NimbleLetter
  module Records
    # A text kept for reuse in letters, in one language or several. Changed here, it changes in every letter not sent yet.
    class Passage < Sequel::Model(:passages)
      extend JsonColumn
      include Versioned

      json_column :documents

      # For readers of any language that has no text of its own.
      ANY = ""

      # @param ids [Array<Integer>]
      # @return [Hash{Integer=>Hash{String=>Hash}}] documents by passage and language, with the passages within
      def self.documents(ids)
        found, open = {}, ids
        until open.empty?
          rows = where(id: open).all
          rows.each { |passage| found[passage.id] = passage.documents }
          open = rows.flat_map(&:passage_ids) - found.keys
        end
        found
      end

      # @param content [Hash{String=>Object}] see #content
      # @return [Hash{String=>String}] what one reads in it, by language
      def self.words_of(content) = content.fetch("documents").transform_values { |json| Core::Letters::Document.new(json).summary }

      # @return [Hash{Symbol=>Object}] what a version keeps
      def content = {name: name, documents: documents}

      # @return [Array<Integer>] passages that stand in it
      def passage_ids = each_document.flat_map(&:passage_ids).uniq

      def picture_ids = each_document.flat_map(&:picture_ids).uniq

      # @return [Array<Core::Letters::Document>]
      def each_document = documents.values.map { |json| Core::Letters::Document.new(json, FieldCatalogue.current) }

      # @return [String] the words of the first one
      def summary = each_document.first&.summary.to_s
    end
  end
end
