# frozen_string_literal: true

module NimbleLetter
  module Work
    # Of whom live rules have become true by what happened to people. What is true no longer when it is looked at was never meant.
    class WhoIsMeant
      # What was only given back, or moved from one record to another, is no change that anybody made.
      BACK = %w[undo merge].freeze

      # @param data [Hash] of a field_changed event
      # @param settings [Hash] field, and from and to where they matter; null is "empty"
      def self.so?(data, settings) =
        !BACK.include?(data["by"]) && data["field"] == settings["field"] &&
          %w[from to].all? { |side| !settings.key?(side) || data[side] == settings[side] }

      # @param rule [Records::JoinRule] of any kind but a filter
      # @param ids [Array<Integer>] people
      # @return [Array<Integer>] those who still have its tag or are on its list
      def self.holding(rule, ids)
        return [] if ids.empty?

        case rule.kind
        when "tag" then Records.db[:people_tags].where(tag_id: rule.settings["tag_id"], person_id: ids).select_map(:person_id)
        when "list" then Records.db[:list_people].where(list_id: rule.settings["list_id"], person_id: ids).select_map(:person_id)
        else ids
        end
      end

      # @param rows [Array<Records::Stirred>] what happened
      def initialize(rows, moment)
        @rows, @moment = rows, moment
      end

      # @param rule [Records::JoinRule]
      # @return [Array<Integer>] people
      def by(rule)
        people = people(rule)
        return LiveFilter.new(rule, @moment).begun_among(people) if rule.kind == "filter"

        waiting = rule.waits.where(person_id: people).select_map(:person_id)
        self.class.holding(rule, (heard(rule) + told(Records::Stirred::RULE, rule.id) + waiting).uniq)
      end

      private

      def people(rule) = @rows.select { |row| row.concerns?(rule) }.map(&:person_id).uniq

      def heard(rule)
        settings = rule.settings
        case rule.kind
        when "tag" then told("tag", settings["tag_id"])
        when "list" then told("list", settings["list_id"])
        when "field" then events.select { |event| event.kind == "field_changed" && self.class.so?(event.data, settings) }.map(&:person_id)
        else events.select { |event| event.kind == rule.of_kind.hears }.map(&:person_id)
        end
      end

      def told(what, about) = @rows.select { |row| row.what == what && row.about == about }.map(&:person_id)

      def events
        @events ||= Records::Event.where(id: @rows.select { |row| row.what == "event" }.map(&:about)).order(:id).all
      end
    end
  end
end
