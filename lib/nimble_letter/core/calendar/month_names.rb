# frozen_string_literal: true

module NimbleLetter
  module Core
    module Calendar
      # Months as people write them, in the languages that letters are written in and two more that files come in.
      module MonthNames
        MORE = [
          %w[janeiro fevereiro março abril maio junho julho agosto setembro outubro novembro dezembro],
          %w[styczeń luty marzec kwiecień maj czerwiec lipiec sierpień wrzesień październik listopad grudzień],
          %w[stycznia lutego marca kwietnia maja czerwca lipca sierpnia września października listopada grudnia]
        ].freeze
        SHORTEST = 3

        # @param word [String] a whole name, or enough of its beginning to be one month in whatever language
        # @return [Integer, nil] 1 to 12
        def self.number(word)
          fold = Fold.call(word)&.delete(".") or return
          return if fold.size < SHORTEST

          whole[fold] || beginnings[fold]
        end

        def self.all = [*Letters::Locale::LANGUAGES.values.map { |language| language[:months] }, *MORE]
        private_class_method :all

        def self.whole
          @whole ||= all.flat_map { |months| months.each_with_index.map { |name, i| [Fold.call(name), i + 1] } }.to_h.freeze
        end
        private_class_method :whole

        def self.beginnings
          @beginnings ||= begin
            pairs = whole.flat_map { |name, number| (SHORTEST..name.size).map { |size| [name[0, size], number] } }
            pairs.group_by(&:first).transform_values { |same| same.map(&:last).uniq }.select { |_, months| months.one? }
              .transform_values(&:first).freeze
          end
        end
        private_class_method :beginnings
      end
    end
  end
end
