# frozen_string_literal: true

module NimbleLetter
  module Work
    # A filter that people join by when it begins to be true of them. Of whom it is true already is kept, so that it begins once.
    class LiveFilter
      # @param rule [Records::JoinRule]
      def initialize(rule, moment)
        @rule, @moment = rule, moment
      end

      # @return [Sequel::Dataset] of people of whom it is true
      def people = @people ||= @moment.audience(@rule.settings["audience"]).people

      # @param ids [Array<Integer>] those to whom something happened
      # @return [Array<Integer>] those of whom it begins to be true
      def begun_among(ids)
        true_of = people.where(Sequel[:people][:id] => ids).select_map(Sequel[:people][:id])
        known = @rule.matches.where(person_id: ids).select_map(:person_id)
        gone = known - true_of
        @rule.matches.where(person_id: gone).delete if gone.any?
        true_of - known
      end

      # Of everybody, by one statement: what time alone makes true, and what nothing told of.
      # @return [Array<Integer>]
      def begun
        @rule.matches.exclude(person_id: people.select(Sequel[:people][:id])).delete
        people.exclude(Sequel[:people][:id] => @rule.matches.select(:person_id)).select_map(Sequel[:people][:id])
      end

      # Nothing more is asked of these as long as it stays true of them.
      # @param ids [Array<Integer>]
      def known(ids) = Records.db[:join_matches].insert_ignore.import(%i[rule_id person_id], ids.map { |id| [@rule.id, id] })

      # Whoever it is true of by now joins by it no more.
      def begin_anew
        @rule.matches.delete
        rows = people.select(Sequel.lit("?", @rule.id), Sequel[:people][:id])
        Records.db[:join_matches].insert_ignore.insert(%i[rule_id person_id], rows) unless @rule.now_too
      end
    end
  end
end
