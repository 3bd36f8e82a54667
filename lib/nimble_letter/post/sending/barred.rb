# frozen_string_literal: true

module NimbleLetter
  module Post
    # The last look at the address before a letter leaves: whether it may be written to as its record stands now, and whether
    # it has had this letter already, under another record. A letter that may go costs no question more: the first is part of
    # the statement that lets it go, the second is asked once for a batch.
    class Barred
      GONE = %w[on_wire sent in_doubt].freeze

      # @param people [Array<Records::Person>] of a batch
      # @param moment [Work::Moment]
      def initialize(people, moment)
        @moment = moment
        @address = Records::SameAddress.column
        sharing = Records::Person.where(@address => people.map { |person| person[@address] }.compact).select_map([@address, :id])
        @sharing = sharing.group_by(&:first).transform_values { |rows| rows.map(&:last) }.select { |_, ids| ids.size > 1 }
      end

      # @return [Sequel::Dataset] ids of those who may be written to; each row is looked up by its number
      def allowed
        @allowed ||= begin
          parser = Records::FieldCatalogue.parser
          reasons = Core::Sieve::LASTING.filter_map { |reason| @moment.sql.read(parser.parse!(reason.condition)) if reason.condition }
          Records::Person.kept.exclude(Sequel.|(*reasons)).select(Sequel[:people][:id])
        end
      end

      # @return [Boolean] whether another record with this address has had the same letter
      def had_already?(row, person)
        others = @sharing.fetch(person[@address], []) - [person.id]
        others.any? && Records::Delivery.where(step_id: row.step_id, person_id: others, state: GONE).any?
      end

      # @return [String, nil] key of the sieve's reason why nothing goes to this person any more
      def reason(person)
        now = Records.db[:people].where(id: person.id).first
        return "in_the_bin" if now.nil? || now[:deleted_at]

        Core::Sieve.reason_for(Records::Person.asked(now))&.key
      end
    end
  end
end
