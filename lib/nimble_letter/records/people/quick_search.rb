# frozen_string_literal: true

module NimbleLetter
  module Records
    # Finds people by a few letters of name, company, address or phone, in any part of a word; forgives case and accents;
    # every word must be found. It reads one narrow index from end to end, never the records (docs/decisions/0010).
    module QuickSearch
      WORDS = 8
      # So many are taken by number; more than that are so many that any order finds a page of them soon.
      FEW = 2000
      NUMBER = %r{\A[\d\s()+./-]+\z}
      INDEX = "people_by_words"

      # @param people [Sequel::Dataset] of people
      # @param text [String]
      # @return [Sequel::Dataset] those of them that are found
      def self.narrow(people, text)
        tests = tests(text)
        return people if tests.empty?

        ids = indexed(tests).limit(FEW + 1).select_map(:id)
        (ids.size > FEW) ? people.where(Sequel.&(*tests)) : people.where(Sequel[:people][:id] => ids)
      end

      # @return [Integer] how many of all kept records are found
      def self.count(text) = indexed(tests(text)).where(deleted_at: nil).count

      # A number typed in groups is a phone, however it is grouped in the record.
      def self.tests(text)
        words =
          (
            if text.to_s.match?(NUMBER) && text.to_s.count("0-9") > 5
              [Core::Phone.fold(text).sub(/\A0/, "")]
            else
              Core::Fold.call(text).to_s.split.first(WORDS)
            end
          )
        words.map { |word| Sequel.lit("`people`.`search_fold` LIKE ?", "%#{Records.db.dataset.escape_like(word)}%") }
      end
      private_class_method :tests

      def self.indexed(tests) =
        tests.inject(Records.db.from(Sequel.lit("`people` FORCE INDEX (`#{INDEX}`)"))) { |found, test| found.where(test) }
      private_class_method :indexed
    end
  end
end
