# frozen_string_literal: true

module NimbleLetter
  module Work
    # How letters did, over all sequences that sent them. A letter counts once, however often it was opened.
    module LetterFigures
      KINDS = %w[sent opened replied].freeze
      # Where a figure has another name as an activity.
      ACTIVITIES = {"sent" => "had_letter"}.freeze

      # @return [Hash{Array(Integer, String)=>Integer}] counts by letter and figure
      def self.counts =
        events
          .exclude(letter_id: nil)
          .group(:letter_id, :kind)
          .select_hash(%i[letter_id kind], Sequel.function(:count, Sequel[:delivery_id]).distinct.as(:count))

      # @param figure [String] one of KINDS, or "quiet", see QuietOnes
      # @return [Sequel::Dataset] of people
      # @raise [Invalid]
      def self.people_of(letter, figure)
        return QuietOnes.new(letter_id: letter.id).people if figure == "quiet"
        raise Invalid.new("There is no figure #{figure.inspect}.", at: "figure") unless KINDS.include?(figure)

        Records::Person.where(Sequel[:people][:id] => events.where(letter_id: letter.id, kind: figure).select(:person_id))
      end

      # @return [Hash] a condition that may give the same people
      def self.condition_of(letter, figure)
        return QuietOnes.new(letter_id: letter.id).condition if figure == "quiet"

        {"activity" => ACTIVITIES.fetch(figure, figure), "letter_id" => letter.id}
      end

      def self.events = Records::Event.by_people.about_sent.where(kind: KINDS)
      private_class_method :events
    end
  end
end
