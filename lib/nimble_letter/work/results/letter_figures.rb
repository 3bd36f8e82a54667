# frozen_string_literal: true

module NimbleLetter
  module Work
    # How letters did, over all sequences that sent them. A letter counts once, however often it was opened.
    module LetterFigures
      KINDS = %w[sent opened replied].freeze
      # Where a figure has another name as an activity.
      ACTIVITIES = {"sent" => "had_letter"}.freeze

      # @return [Hash{Array(Integer, String)=>Integer}] counts by letter and figure
      def self.counts = LetterCounts.of(Records::Delivery.exclude(letter_id: nil), by: :letter_id)

      # @param figure [String] one of KINDS, or "quiet", see QuietOnes
      # @return [Sequel::Dataset] of people
      # @raise [Invalid]
      def self.people_of(letter, figure)
        return QuietOnes.new(letter_id: letter.id).people if figure == "quiet"
        raise Invalid.new("There is no figure #{figure.inspect}.", at: "figure") unless KINDS.include?(figure)

        had = LetterCounts.those(Records::Delivery.where(letter_id: letter.id), figure)
        # Found first, each once: looked for person by person, a letter to many takes six times as long.
        Records::Person.where(Sequel[:people][:id] => had.distinct.select(:person_id).from_self)
      end

      # @return [Hash] a condition that may give the same people
      def self.condition_of(letter, figure)
        return QuietOnes.new(letter_id: letter.id).condition if figure == "quiet"

        {"activity" => ACTIVITIES.fetch(figure, figure), "letter_id" => letter.id}
      end
    end
  end
end
