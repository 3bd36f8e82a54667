# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # Finds the field each column of a file is meant for: by what was chosen for such a header before, by what most of its cells
      # hold where that speaks for itself, and by its name. Each field is given once, but for those that take several.
      class ColumnMatching
        EMAIL = "person.email"
        ADDRESSES = Targets::ADDRESSES.key
        NAME = Targets::NAME.key
        PHONES = %w[person.phone person.mobile].freeze
        # What several columns may be meant for.
        SEVERAL = ["person.tags", "person.lists", ADDRESSES, Targets::NOTE.key].freeze

        LIKE_ADDRESS = /\A[^@]*[^\s@]+@[^\s@]+\.[^\s@]+/
        LIKE_PHONE = %r{\A\+?[\d\s()./-]{7,}\z}
        LIKE_DAY = /\A\d{4}-?\d{2}-?\d{2}/
        MOST = 0.5 # of the values there are
        NEARLY_ALL = 0.8

        # @param catalogue [Fields::Catalogue]
        # @param habits [Hash{String=>String,nil}] folded header to the field chosen last time, nil for left out
        def initialize(catalogue, habits: {})
          @catalogue, @habits = catalogue, habits
        end

        # @param headers [Array<String>]
        # @param samples [Array<Array<String>>] values of each column
        # @return [Array<Hash>] "field" (nil: left out) and "by" (habit, name, content, nil)
        def match(headers, samples)
          @found, @samples = Array.new(headers.size), samples.map { |values| values.map { |value| value.to_s.strip }.reject(&:empty?) }
          folds, names = headers.map { |header| Fold.call(header.to_s.tr("_", " ")) }, headers.map { |header| by_name(header) }
          offer(folds) { |fold| [@habits[fold], "habit"] if @habits.key?(fold) && (@habits[fold].nil? || known?(@habits[fold])) }
          offer(names) { |key| [key, "name"] if [EMAIL, ADDRESSES].include?(key) }
          offer(@samples) { |values| [taken?(EMAIL) ? ADDRESSES : EMAIL, "content"] if mostly?(values, LIKE_ADDRESS, MOST) }
          offer(names) { |key| [key, "name"] unless key == NAME }
          offer(names.each_with_index.map { |key, i| [key, i] }) { |key, i| [whole_name(i), "name"] if key == NAME }
          offer(@samples) { |values| phone(values)&.then { |key| [key, "content"] } }
          @found.map { |field, by| {"field" => field, "by" => by} }
        end

        private

        def offer(of_columns)
          of_columns.each_with_index do |given, i|
            next if @found[i] || given.nil?

            answer = yield(given)
            @found[i] = answer if answer && (answer.first.nil? || SEVERAL.include?(answer.first) || !taken?(answer.first))
          end
        end

        def taken?(key) = @found.any? { |field, _| field == key }

        def known?(key) = !Targets.find(key, @catalogue).nil?

        def by_name(header) = names[HeaderNames.bare(header)]

        # The catalogue's own words go before other people's; a bare "phone" is the person's, not the company's.
        def names
          @names ||= begin
            own = Targets.all(@catalogue)
            named = own.select { |field| field.subject == "person" }.map { |field| [field.name.tr("_", " "), field.key] }
            # As our own cards name what vCard has no property for.
            named += own.map { |field| ["X-#{field.key.tr(".", "-")}", field.key] }
            labels = [*named, *own.map { |field| [field.label, field.key] }].to_h { |words, key| [HeaderNames.bare(words), key] }
            HeaderNames.all.select { |_, key| known?(key) }.merge(labels)
          end
        end

        # Beside a first name, or with one word in a cell, "Name" is the family name.
        def whole_name(i)
          several = @samples[i].count { |value| value.match?(/\S[\s,]+\S/) }
          alone = taken?("person.first_name") || (@samples[i].any? && several <= @samples[i].size * MOST)
          alone ? "person.last_name" : NAME
        end

        def phone(values)
          return unless mostly?(values, LIKE_PHONE, NEARLY_ALL) && values.count { |value| day?(value) } <= values.size * MOST &&
            values.any? { |value| value.match?(/[+ ]|\A0/) }

          PHONES.find { |key| known?(key) && !taken?(key) }
        end

        def day?(value) = value.match?(LIKE_DAY) || !Fields::Habit.plain.date(value).nil? || Fields::Habit.orders_for([value]).any?

        def mostly?(values, pattern, share) = values.size > 1 && values.count { |value| value.match?(pattern) } > values.size * share
      end
    end
  end
end
