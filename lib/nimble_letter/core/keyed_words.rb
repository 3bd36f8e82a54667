# frozen_string_literal: true

module NimbleLetter
  module Core
    # A short list of a firm's own words, each under a key that stays when the words change: stages of deals, statuses, outcomes of
    # tasks, kinds of conversions.
    module KeyedWords
      LONGEST = 60 # letters

      # @param list [Array<Hash{String=>Object}>] "key" (nil for a new one), "words", and what else each has
      # @param noun [String] what one of them is: "stage"
      # @param known [Array<String>] keys there have been so far
      # @param most [Integer]
      # @return [Array<Hash>] the same with clean words, and a key for each
      # @raise [Invalid]
      def self.put(list, noun:, at:, known:, most:, least: 1)
        kept = list.map { |one| clean(one, noun, at) }
        unless kept.size.between?(least, most)
          raise Invalid.new("There are from #{least} to #{most} of them.", at: at)
        end
        if kept.uniq { |one| Fold.call(one["words"]) }.size < kept.size
          raise Invalid.new("Two #{noun}s have the same name.", at: at)
        end

        number(kept, noun, known)
        raise Invalid.new("Two #{noun}s are one.", at: at) if kept.uniq { |one| one["key"] }.size < kept.size

        kept
      end

      def self.clean(one, noun, at)
        words = Letters::Values.clean(one["words"].to_s) or raise Invalid.new("A #{noun} needs a name.", at: at)
        one.merge("words" => words[0, LONGEST])
      end
      private_class_method :clean

      def self.number(list, noun, known)
        list.each do |one|
          next if known.include?(one["key"])

          plain = Fold.call(one["words"]).gsub(/[^a-z0-9]+/, "_").gsub(/\A_+|_+\z/, "")[0, 18]
          plain = noun if plain.empty?
          taken = known + list.map { |other| other["key"] }
          one["key"] = ([plain] + (2..99).map { |n| "#{plain}_#{n}"[0, 20] }).find { |key| !taken.include?(key) }
        end
      end
      private_class_method :number
    end
  end
end
