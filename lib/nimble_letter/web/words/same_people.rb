# frozen_string_literal: true

module NimbleLetter
  module Web
    # How the people behind a number are said again, to be written to, worked on or looked at in People: by a condition where one
    # gives exactly these, or else by their numbers. Nobody from the bin.
    module SamePeople
      MOST = 50_000

      # @param people [Sequel::Dataset]
      # @param condition [Hash, nil] that may give the same
      # @return [Hash] chosen: see Chosen in openapi.yaml, nil for more than can be told one by one; chosen_count
      def self.of(people, condition, moment)
        kept = people.unordered.where(Sequel[:people][:deleted_at] => nil)
        count = kept.count
        chosen = if count.positive? && says?(condition, kept, count, moment) then {condition: condition}
        elsif count <= MOST then {ids: kept.select_map(Sequel[:people][:id])}
        end
        {chosen: chosen, chosen_count: count}
      end

      # The same people, and not only as many.
      def self.says?(condition, kept, count, moment)
        test = condition && moment.parser.parse(condition)&.then { |tree| moment.sql.read(tree) } or return false
        Records::Person.kept.where(test).count == count && kept.where(test).count == count
      end
      private_class_method :says?
    end
  end
end
