# frozen_string_literal: true

module NimbleLetter
  module Web
    # By what people join, as people say it.
    module JoinWords
      OTHERS = {"file" => "whoever is new with a file", "mail" => "whoever writes to us first", "form" => "whoever sends a form",
                "handed_over" => "whoever another sequence hands over"}.freeze

      # @param rule [Records::JoinRule]
      # @return [String] "whoever gets the tag “price list”"
      def self.of(rule, moment)
        has = rule.settings
        case rule.kind
        when "filter" then "whoever begins to fit: #{audience(has["audience"], moment)}"
        when "tag" then "whoever gets #{named("tag", Records::Tag, has["tag_id"])}"
        when "list" then "whoever is put on #{named("list", Records::List, has["list_id"])}"
        when "field" then field(has, moment)
        when "yearly" then yearly(has, moment)
        else OTHERS.fetch(rule.kind)
        end
      end

      # @return [String] "and again once they have come to its end"
      def self.again(rule)
        return "each year anew" if rule.kind == "yearly"

        case rule.again
        when "never" then "once only"
        when "finished" then "again once they have come to its end"
        else rule.gap_days.zero? ? "every time" : "every time, at least #{days(rule.gap_days)} after the last"
        end
      end

      def self.audience(json, moment)
        AudienceWords.short(moment.audience(json))
      rescue NotFound, Invalid
        "a filter that is gone"
      end
      private_class_method :audience

      def self.named(word, kind, id) = kind.where(id: id).get(:name)&.then { |name| "the #{word} “#{name}”" } || "a #{word} that is gone"
      private_class_method :named

      def self.field(has, moment)
        field = moment.catalogue[has["field"]] or return "whoever changes in a field that is gone"
        sides = %w[from to].filter_map { |side| "#{side} #{value(field, has[side])}" if has.key?(side) }
        ["whoever’s #{field.label.downcase} changes", *sides].join(" ")
      end
      private_class_method :field

      def self.value(field, value) = value.nil? ? "nothing" : "“#{field.choices&.[](value) || value}”"
      private_class_method :value

      def self.yearly(has, moment)
        label = moment.catalogue[has["field"]]&.label&.downcase or return "a date that is gone, every year"
        shift = has["days"]
        return "every year on #{label}" if shift.zero?

        "every year #{days(shift.abs)} #{shift.negative? ? "before" : "after"} #{label}"
      end
      private_class_method :yearly

      def self.days(count) = (count == 1) ? "1 day" : "#{count} days"
      private_class_method :days
    end
  end
end
