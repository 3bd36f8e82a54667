# frozen_string_literal: true

module NimbleLetter
  module Work
    # Whom a rule of joining would take in, before it is switched on: who fits a filter now, who got a tag, came on a list, changed in a
    # field or was brought in over the last 30 days and still is so, whose date comes round in the next 30.
    class JoinOutlook
      DAYS = 30
      # What is asked of each kind; of what is not here nothing can be known beforehand.
      ABOUT = {"filter" => "now", "tag" => "last_days", "list" => "last_days", "field" => "last_days", "file" => "last_days",
               "yearly" => "next_days"}.freeze

      # @param rule [Records::JoinRule] kept or not
      def initialize(rule, moment)
        @rule, @moment = rule, moment
      end

      # @return [Hash] about: of ABOUT, or nil; people; would_get_it: those of them who may be written to and are not in it
      def call
        return {about: nil} unless about

        {about: about, days: (DAYS unless about == "now"), people: people.count, would_get_it: may_get_it.size}
      end

      # @return [Sequel::Dataset]
      def people
        case @rule.kind
        when "filter" then @moment.audience(@rule.settings["audience"]).people
        when "yearly" then yearly
        else Records::Person.kept.where(Sequel[:people][:id] => held)
        end
      end

      # @return [Sequel::Dataset] those of them who may be written to and are not in it
      def would_get_it = Records::Person.where(Sequel[:people][:id] => may_get_it)

      private

      def about = ABOUT[@rule.kind]

      def may_get_it
        # A filter is asked as it is: to name very many one by one takes seconds.
        whom = (@rule.kind == "filter") ? @rule.settings["audience"] : {"people" => people.unordered.select_map(Sequel[:people][:id])}
        under_way = @rule.sequence && !@rule.sequence.draft?
        @moment.sieving(@moment.audience(whom), sequence_id: (@rule.sequence_id if under_way)).would_get_it
      end

      # @return [Array<Integer>] to whom it happened, and of whom it is still so
      def held
        ids = happened
        case @rule.kind
        when "tag" then Records.db[:people_tags].where(tag_id: @rule.settings["tag_id"], person_id: ids).select_map(:person_id)
        when "list" then Records.db[:list_people].where(list_id: @rule.settings["list_id"], person_id: ids).select_map(:person_id)
        else ids
        end
      end

      def happened
        events = Records::Event.where(Sequel[:occurred_at] >= @moment.now - DAYS * 86_400)
        return events.where(kind: "imported").distinct.select_map(:person_id) if @rule.kind == "file"

        changed = events.where(kind: "field_changed").where(Sequel.|(*begins.map { |text| Sequel.like(:data, "#{text}%") }))
        changed.select(:person_id, :data).all.select { |event| so?(event.data) }.map(&:person_id).uniq
      end

      # A change says first in which field it was (RecordEvents): one that cannot be meant is not read.
      def begins = fields.map { |field| Records.db.dataset.escape_like("{\"field\":#{JSON.generate(field)},") }

      # Done to one record the name of a tag is told, done to many its number.
      def fields = (@rule.kind == "field") ? [@rule.settings["field"]] : [@rule.kind, "#{@rule.kind}:#{about_id}"]

      def about_id = @rule.settings["#{@rule.kind}_id"]

      def so?(data)
        return WhoIsMeant.so?(data, @rule.settings) if @rule.kind == "field"

        data["to"] == ((data["field"] == @rule.kind) ? name : true)
      end

      def name = @name ||= ((@rule.kind == "tag") ? Records::Tag : Records::List).where(id: about_id).get(:name)

      def yearly
        sql = Records::ConditionSql.new(now: @moment.now, today: @moment.today - @rule.settings["days"])
        test = {"field" => @rule.settings["field"], "is" => "yearly_in_next", "value" => DAYS}
        Records::Person.kept.where(sql.read(@moment.parser.parse!(test)))
      end
    end
  end
end
