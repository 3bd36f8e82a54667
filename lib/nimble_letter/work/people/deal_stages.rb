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
        kept = stages.map { |stage| clean(stage.transform_keys(&:to_s)) }
        raise Invalid.new("A firm has from 2 to #{MOST} stages.", at: "stages") unless kept.size.between?(2, MOST)
        if kept.uniq { |stage| Core::Fold.call(stage["words"]) }.size < kept.size
          raise Invalid.new("Two stages have the same name.", at: "stages")
        end

        number(kept)
        gone = Records::Deal.exclude(stage: kept.map { |stage| stage["key"] }).get(:stage)
        if gone
          words = Records::FieldCatalogue.deal_stages.find { |stage| stage["key"] == gone }&.[]("words") || gone
          binned = Records::Deal.live.where(stage: gone).empty?
          hint = binned ? "They are of people in the bin: take them out and move the deals on first." : "Move them on first."
          raise Invalid.new("There are deals at the stage “#{words}”.", code: :in_use, at: "stages", hint: hint)
        end

        moment.note("setting_changed", about: "the stages of deals: #{kept.map { |stage| stage["words"] }.join(", ")}")
        text = JSON.generate(kept)
        Records.db[:settings].on_duplicate_key_update(value: text).insert(key: Records::FieldCatalogue::STAGES, value: text)
      end

      def self.clean(stage)
        words = Core::Letters::Values.clean(stage["words"].to_s) or raise Invalid.new("A stage needs a name.", at: "stages")
        raise Invalid.new("A stage is open, won or lost.", at: "stages") unless OUTCOMES.include?(stage["outcome"])

        {"key" => stage["key"], "words" => words[0, 60], "outcome" => stage["outcome"]}
      end
      private_class_method :clean

      def self.number(stages)
        known = Records::FieldCatalogue.deal_stages.map { |stage| stage["key"] }
        stages.each do |stage|
          next if known.include?(stage["key"])

          plain = Core::Fold.call(stage["words"]).gsub(/[^a-z0-9]+/, "_").gsub(/\A_+|_+\z/, "")[0, 30]
          plain = "stage" if plain.empty?
          taken = known + stages.map { |one| one["key"] }
          stage["key"] = ([plain] + (2..99).map { |n| "#{plain}_#{n}" }).find { |key| !taken.include?(key) }
        end
      end
      private_class_method :number
    end
  end
end
