# frozen_string_literal: true

module NimbleLetter
  module Web
    # People as lists show them; companies, owners and sequences are read once for the page.
    class PersonRows
      PAGE = 60

      # @param people [Array<Records::Person>]
      # @param columns [Array<String>] field keys to show besides what every row has
      # @return [Array<Hash>] see PersonRow in openapi.yaml
      def self.write(people, columns: []) = new(people, columns).rows

      # @param dataset [Sequel::Dataset]
      # @param condition [Hash, nil] that may give the same people
      # @return [Hash] a page of it, newest activity first, with the total; the first also says the people as others take them
      def self.page(dataset, moment:, cursor:, condition: nil)
        people, following = Records::Cursor.page(dataset.newest_first, time: :last_activity_at, cursor: cursor, limit: PAGE)
        page = {people: write(people), total: dataset.count, next_cursor: following}
        cursor.to_s.empty? ? page.merge(SamePeople.of(dataset, condition, moment)) : page
      end

      def initialize(people, columns)
        @people = people
        @companies = Records::Company.where(id: people.map(&:company_id).compact.uniq).as_hash(:id)
        @owners = Records::Account.where(id: people.map(&:owner_id).compact.uniq).select_hash(:id, :name)
        @now_in = now_in(people.map(&:id))
        @cells = Work::PersonCells.new(people, columns, companies: @companies, now_in: @now_in) if columns.any?
      end

      def rows = @people.map { |person| row(person, @companies[person.company_id]&.name) }

      private

      def row(person, company)
        {
          id: person.id,
          name: Records::Person.name_of(person.values) || company || "Without a name",
          email: person.email,
          company: company,
          city: person.city,
          owner: @owners[person.owner_id],
          standing: person.standing,
          may_write: may_write?(person),
          binned: !person.deleted_at.nil?,
          last_activity: person.last_activity_at && {at: person.last_activity_at, kind: person.last_activity_kind},
          now_in: @now_in[person.id],
          cells: @cells&.of(person)
        }.compact
      end

      # The sieve's own reasons, so that a row and the sieve cannot disagree.
      def may_write?(person)
        Core::Sieve.reason_for(Records::Person.asked(person.values)).nil?
      end

      def now_in(ids)
        Records::Member
          .where(:person_id => ids, Sequel[:members][:state] => "active")
          .join(:sequences, id: :sequence_id)
          .where(Sequel[:sequences][:state] => Records::Sequence::UNDER_WAY)
          .select_hash(:person_id, Sequel[:sequences][:name])
      end
    end
  end
end
