# frozen_string_literal: true

module NimbleLetter
  module Work
    # Short lists in the firm's own words: what can come of a task, and what a conversion can be.
    module OwnWords
      MOST = 30
      OUTCOMES = [%w[spoke spoke], ["no_answer", "no answer"], ["call_later", "asked to be called later"],
        ["interested", "interested"], ["not_now", "not now"], ["done", "done"]].freeze
      CONVERSIONS = [["visit_booked", "visit booked"], ["proposal_signed", "proposal signed"], ["bought", "bought"]].freeze
      # By the key under which they are kept: what one is called, and those a new firm begins with.
      KINDS = {"outcomes" => ["outcome", OUTCOMES], "conversions" => ["kind of conversion", CONVERSIONS]}.freeze

      # @param kind [String] of KINDS
      # @return [Array<Hash{String=>String}>] "key" and "words"
      def self.of(kind)
        _, first = KINDS.fetch(kind) { raise NotFound.new("There is no list of that name.") }
        text = Records.db[:settings].where(key: kind).get(:value)
        text ? JSON.parse(text) : first.map { |key, words| {"key" => key, "words" => words} }
      end

      # @return [String] a word that is not kept any more by its key
      def self.say(kind, key) = of(kind).find { |one| one["key"] == key }&.[]("words") || key

      # @param list [Array<Hash>] "key" (nil for a new one) and "words", in order
      # @raise [Invalid]
      # @raise [Forbidden] unless an admin asks
      def self.put(kind, list, moment:)
        moment.admin!
        known = of(kind).map { |one| one["key"] }
        noun, = KINDS.fetch(kind)
        list = list.map { |one| one.transform_keys(&:to_s).slice("key", "words") }
        kept = Core::KeyedWords.put(list, noun: noun, at: kind, known: known, most: MOST)
        WhereUsed.new.hold_words!(kind, noun, of(kind), kept.map { |one| one["key"] })
        text = JSON.generate(kept)
        Records.db[:settings].on_duplicate_key_update(value: text).insert(key: kind, value: text)
        moment.note("setting_changed", about: "the words for #{noun}s: #{kept.map { |one| one["words"] }.join(", ")}")
      end
    end
  end
end
