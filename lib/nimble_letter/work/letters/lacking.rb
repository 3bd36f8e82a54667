# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who would have a gap in a letter, as conditions that the database can ask of everybody at once: whoever lacks a field where it
    # is asked for. The sides of passages that lead there count, as far as the records know them.
    class Lacking
      # @param documents [Array<Core::Letters::Document>] all of a letter's, passages too
      # @param moment [Moment]
      # @param for_deal [Boolean] whether the letter speaks of a deal
      def initialize(documents, moment, for_deal:)
        @documents, @moment, @for_deal = documents, moment, for_deal
      end

      # @return [Hash{String=>Array(Hash, Boolean)}] by field key: the condition, and whether a side had to be left open, so that
      #   they may be fewer
      def by_field
        @by_field ||= places.filter_map do |key, some|
          empty = empty(key) or next
          paths = some.map { |_, path| path.map { |condition| (condition == {}) ? {"all" => []} : condition } }
          known = paths.map { |path| path.select { |condition| @moment.parser.parse(condition) } }
          [key, [{"all" => [empty, {"any" => known.map { |path| {"all" => path} }}]}, known != paths]]
        end.to_h
      end

      # @return [Array<String>] keys of fields that are asked for, and of which the records do not know whether they are empty
      def not_known = places.keys - by_field.keys

      # @param key [String]
      # @return [Hash, nil] the condition that nothing is there; nil when that cannot be known beforehand
      def empty(key)
        field = @moment.catalogue[@moment.catalogue[key]&.comes_from || key]
        return ({"not" => {"deals" => {"all" => []}}} if @for_deal) if field&.subject == "deal"

        {"field" => field.key, "is" => "empty"} if field&.for?(:condition)
      end

      private

      def places = @places ||= @documents.flat_map(&:gap_places).group_by(&:first)
    end
  end
end
