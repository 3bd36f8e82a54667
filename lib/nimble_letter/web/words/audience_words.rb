# frozen_string_literal: true

module NimbleLetter
  module Web
    # Audiences and conditions in words.
    module AudienceWords
      # @return [Hash] see Work::Sentences.names
      def self.names = Work::Sentences.names

      # @param tree [Object, nil] a condition tree
      # @return [String]
      def self.sentence(tree, names: self.names) = tree ? Core::Conditions::Sentence.new(names: names).say(tree) : "single people"

      # @param audience [Records::Audience]
      # @return [String] the filters' and lists' names, or the sentence
      def self.short(audience)
        return "nobody yet" unless audience.said?

        json = audience.json
        words =
          Records::SavedFilter.where(id: audience.filter_ids).order(:name).select_map(:name) +
          named_lists(json["lists"]).map { |name| "the list “#{name}”" } + (json["tags"] || []).map { |name| "tagged #{name}" }
        words << sentence(audience.tree) if audience.tree && words.empty?
        words << "and others" if words.any? && (json["condition"] || json["members"]) && (audience.filter_ids.any? || json["lists"])
        words << people((json["people"] || []).size) if (json["people"] || []).any?
        [*words, *without(json)].join(", ")
      end

      def self.without(json)
        filters = Records::SavedFilter.where(id: json["without_filters"] || []).order(:name).select_map(:name)
        lists = named_lists(json["without_lists"]).map { |name| "the list “#{name}”" }
        single = (json["without"] || []).any? ? [people(json["without"].size)] : []
        (filters + lists + (json["without_tags"] || []).map { |name| "those tagged #{name}" } + single).map { |words| "without #{words}" }
      end
      private_class_method :without

      def self.named_lists(ids) = Records::List.where(id: ids || []).order(:name).select_map(:name)
      private_class_method :named_lists

      def self.people(count) = (count == 1) ? "1 person" : "#{count} people"
      private_class_method :people
    end
  end
end
