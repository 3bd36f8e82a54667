# frozen_string_literal: true

module NimbleLetter
  module Records
    # Carries out the sieve (Core::Sieve) on the database: one reason, or none, for each matching person.
    class Sieving
      attr_reader :reasons

      # @param people [Sequel::Dataset] those that match
      # @param sql [ConditionSql]
      # @param reasons [Array<Core::Sieve::Reason>]
      def initialize(people, sql:, reasons: Core::Sieve.reasons)
        @people, @sql, @reasons = people, sql, reasons
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
        parser = FieldCatalogue.parser
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
          folds = Person.kept.exclude(email_fold: nil).group(:email_fold).having { count.function.* > 1 }.select_map(:email_fold)
          rows =
            folds
              .each_slice(5000)
              .flat_map do |some|
                @people.where(Sequel[:people][:email_fold] => some).select_map([Sequel[:people][:id], Sequel[:people][:email_fold]])
              end
          rows.group_by(&:last).flat_map { |_, same| same.map(&:first).sort.drop(1) }
        end
      end
    end
  end
end
