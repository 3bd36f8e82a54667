# frozen_string_literal: true

module NimbleLetter
  module Records
    # Carries out the sieve (Core::Sieve) on the database: one reason, or none, for each matching person.
    class Sieving
      attr_reader :reasons

      # @param people [Sequel::Dataset] those that match
      # @param sql [ConditionSql]
      # @param reasons [Array<Core::Sieve::Reason>]
      # @param sequence_id [Integer, nil] the one people would join: what its members' addresses are counts too
      # @param few [Boolean] whether they are named one by one, so that it is cheaper to look up the address of each
      # @param parser [#call] for a Core::Conditions::Parser
      def initialize(people, sql:, reasons: Core::Sieve.reasons, sequence_id: nil, few: false, parser: -> { FieldCatalogue.parser })
        @people, @sql, @reasons, @sequence_id, @few, @parser = people, sql, reasons, sequence_id, few, parser
      end

      # @return [Hash] see Core::Sieve.account
      def account
        counts = judged.group_and_count(:reason).to_hash(:reason, :count)
        Core::Sieve.account(@reasons, counts.values.sum, counts.compact)
      end

      # @param part [String] "matching", a reason's key, a stage's key or "would_get_it"
      # @return [Sequel::Dataset] people of that part
      # @raise [Invalid]
      def people_of(part)
        Person.where(Sequel[:people][:id] => ids_of(part))
      end

      # @param meant [Hash, nil] the condition of those who match
      # @return [Hash, nil] a condition that may give the same people as that part
      def condition_of(part, meant) = meant && Core::Sieve.condition(part, meant, @reasons)

      # @return [Array<Integer>] who would get it, in the order of their records
      def would_get_it = judged.where(reason: nil).order(:id).select_map(:id)

      private

      def ids_of(part)
        return judged.select(:id) if part == "matching"
        return judged.where(reason: nil).select(:id) if part == "would_get_it"

        if Core::Sieve::STAGES.key?(part)
          passed = Core::Sieve::STAGES.keys.take_while { |stage| stage != part } + [part]
          dropped = @reasons.select { |reason| passed.include?(reason.stage) }.map(&:key)
          return judged.where(Sequel.|({reason: nil}, Sequel.~(reason: dropped))).select(:id)
        end
        return judged.where(reason: part).select(:id) if @reasons.any? { |reason| reason.key == part }

        raise Invalid.new("The sieve has no part #{part.inspect}.", at: "part")
      end

      # Rows of id and reason (nil: would get it).
      def judged = Records.db.from(@people.unordered.select(Sequel[:people][:id], reason.as(:reason)).as(:judged))

      def reason
        parser = @parser.call
        whens =
          @reasons.map do |reason|
            [Sequel.expr(reason.condition ? @sql.read(parser.parse!(reason.condition)) : {Sequel[:people][:id] => doubled}), reason.key]
          end
        Sequel.case(whens, nil)
      end

      # Of several matching records with one address the oldest keeps it; the others are these. Addresses that occur twice
      # anywhere are few and found from their index; asking for the place of every record among its like took a second.
      # @return [Array<Integer>]
      def doubled
        @doubled ||= begin
          at = SameAddress.column
          among = @few ? {at => @people.exclude(at => nil).distinct.select_map(at)} : Sequel.~(at => nil)
          keys = Person.kept.where(among).group(at).having { count.function.* > 1 }.select_map(at)
          rows =
            keys
              .each_slice(5000)
              .flat_map { |some| @people.where(Sequel[:people][at] => some).select_map([Sequel[:people][:id], Sequel[:people][at]]) }
          rows.group_by(&:last).flat_map { |key, same| same.map(&:first).sort.then { |ids| losing(ids, taken(keys, at)[key]) } }
        end
      end

      # The member keeps the address; without one, the oldest record.
      # @param ids [Array<Integer>] of matching records with one address
      # @param members [Array<Integer>, nil] of active members with it
      def losing(ids, members) = members ? ids - members : ids.drop(1)

      # @return [Hash{String=>Array<Integer>}] active members by address, of addresses that occur twice
      def taken(keys, at)
        @taken ||=
          if @sequence_id
            Member
              .active
              .where(sequence_id: @sequence_id)
              .join(:people, id: :person_id)
              .where(Sequel[:people][at] => keys)
              .select_hash_groups(Sequel[:people][at], :person_id)
          else
            {}
          end
      end
    end
  end
end
