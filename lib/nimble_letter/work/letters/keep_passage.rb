# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes and changes passages: texts that letters refer to, so that a change is made in one place.
    class KeepPassage
      # Those whose dates, numbers and words we know.
      LANGUAGES = Core::Letters::Locale::LANGUAGES.keys

      def initialize(moment)
        @moment = moment
      end

      # @param documents [Hash{String=>Hash}] by language; "" is needed
      # @return [Records::Passage]
      # @raise [Invalid]
      def make(name:, documents: {Records::Passage::ANY => Core::Letters::Document::EMPTY})
        values = {name: name(name), documents: read(documents, nil), account_id: @moment.account&.id}
        Records.db.transaction do
          passage = Records::Passage.create(**values, created_at: @moment.now, updated_at: @moment.now)
          Versions.new(passage, @moment).keep("typed")
          passage
        end
      end

      # @param input [Hash{Symbol=>Object}] version, and name or documents
      # @raise [Invalid, Conflict]
      def change(passage, input)
        Records.db.transaction do
          before, was = passage.version, passage.content
          passage.change!(taken(passage, input), version: input[:version], now: @moment.now)
          keep(passage, was) if passage.version != before
        end
        passage
      end

      # @param version [Records::PassageVersion] gone back to
      # @param number [Integer] the passage's own version, as it was read
      def restore(passage, version, number:)
        Records.db.transaction do
          passage.change!(taken(passage, {documents: version.content["documents"]}), version: number, now: @moment.now)
          Versions.new(passage, @moment).keep("restored", went_back_to: version.number)
        end
        passage
      end

      # Keeps a text that was typed while somebody else changed the passage; theirs stays the passage.
      # @return [Records::PassageVersion]
      def set_aside(passage, input) =
        Records.db.transaction { Versions.new(passage, @moment).keep("set_aside", passage.content.merge(taken(passage, input))) }

      # @raise [Invalid] naming the letters that use it
      def remove(passage)
        WhereUsed.refuse_if_used!("passage", passage.name, WhereUsed.new.passage(passage))
        passage.destroy
      end

      private

      # @return [Hash{Symbol=>Object}] checked
      def taken(passage, input)
        changes = {}
        changes[:name] = name(input[:name]) if input[:name]
        changes[:documents] = read(input[:documents], passage.id, passage.documents.keys) if input[:documents]
        changes
      end

      # @param was [Hash{Symbol=>Object}] content before
      def keep(passage, was)
        versions = Versions.new(passage, @moment)
        versions.begin_with(was)
        versions.keep("typed")
      end

      def name(given) = Core::Letters::Values.clean(given)&.slice(0, 120) || raise(Invalid.new("A passage needs a name.", at: "name"))

      # @param there [Array<String>] languages it has already, whatever we know of them
      def read(documents, own_id, there = [])
        unless documents.is_a?(Hash) && documents.key?(Records::Passage::ANY)
          raise Invalid.new("A passage needs a text for everybody; other languages come beside it.", at: "documents")
        end

        unknown = documents.keys - LANGUAGES - there - [Records::Passage::ANY]
        raise Invalid.new("There is no language #{unknown.first.inspect}.", at: "documents") if unknown.any?

        read =
          documents.to_h do |language, json|
            [language, Core::Letters::Document.parse!(json, at: "documents.#{language}", catalogue: @moment.catalogue)]
          end
        no_circle!(read.values.flat_map(&:passage_ids).uniq, own_id)
        read.transform_values(&:to_h)
      end

      def no_circle!(within, own_id)
        return if own_id.nil?
        return unless within.include?(own_id) || Records::Passage.documents(within).key?(own_id)

        raise Invalid.new(
          "This passage would contain itself.",
          code: :circle,
          at: "documents",
          hint: "Take the passage out that leads back to this one."
        )
      end
    end
  end
end
