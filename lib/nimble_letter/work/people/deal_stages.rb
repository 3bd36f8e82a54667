# frozen_string_literal: true

module NimbleLetter
  module Work
    # The stages a firm's deals go through, in order. A stage keeps its key when it is renamed, and cannot be taken away
    # while deals are at it.
    module DealStages
      OUTCOMES = %w[open won lost].freeze
      MOST = 20

      # @param stages [Array<Hash>] "key" (nil for a new one), "words", "outcome"
      # @raise [Invalid]
      # @raise [Forbidden] unless an admin asks
      def self.put(stages, moment:)
        moment.admin!
        known = Records::FieldCatalogue.deal_stages.map { |stage| stage["key"] }
        kept = Core::KeyedWords.put(stages.map { |stage| clean(stage.transform_keys(&:to_s)) }, noun: "stage", at: "stages", known: known,
          least: 2, most: MOST)
        gone = Records::Deal.exclude(stage: kept.map { |stage| stage["key"] }).get(:stage)
        if gone
          words = Records::FieldCatalogue.deal_stages.find { |stage| stage["key"] == gone }&.[]("words") || gone
          binned = Records::Deal.live.where(stage: gone).empty?
          hint = binned ? "They are of people in the bin: take them out and move the deals on first." : "Move them on first."
          raise Invalid.new("There are deals at the stage “#{words}”.", code: :in_use, at: "stages", hint: hint)
        end

        WhereUsed.new.hold_words!("stages", "stage", Records::FieldCatalogue.deal_stages, kept.map { |stage| stage["key"] })
        moment.note("setting_changed", about: "the stages of deals: #{kept.map { |stage| stage["words"] }.join(", ")}")
        text = JSON.generate(kept)
        Records.db[:settings].on_duplicate_key_update(value: text).insert(key: Records::FieldCatalogue::STAGES, value: text)
      end

      def self.clean(stage)
        raise Invalid.new("A stage is open, won or lost.", at: "stages") unless OUTCOMES.include?(stage["outcome"])

        stage.slice("key", "words", "outcome")
      end
      private_class_method :clean
    end
  end
end
