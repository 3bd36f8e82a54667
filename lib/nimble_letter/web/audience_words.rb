# frozen_string_literal: true

module NimbleLetter
  module Web
    # Audiences and conditions in words.
    module AudienceWords
      # @param tree [Object, nil] a condition tree
      # @return [String]
      def self.sentence(tree)
        return "single people" unless tree

        Core::Conditions::Sentence.new(names: {owners: Records::Account.select_hash(:id, :name), letters: Records::Letter.select_hash(:id, :name),
                                               sequences: Records::Sequence.select_hash(:id, :name)}).say(tree)
      end

      # @param audience [Records::Audience]
      # @return [String] the filter's name, or the sentence
      def self.short(audience)
        return "nobody yet" unless audience.said?

        words = Records::SavedFilter.where(id: audience.json["filter_id"]).get(:name) if audience.json["filter_id"]
        words ||= audience.tree ? sentence(audience.tree) : nil
        single = (audience.json["people"] || []).size
        without = (audience.json["without"] || []).size
        [words, (people(single) if single.positive?), ("without #{people(without)}" if without.positive?)].compact.join(", ")
      end

      def self.people(count) = (count == 1) ? "1 person" : "#{count} people"
      private_class_method :people
    end
  end
end
