# frozen_string_literal: true

module NimbleLetter
  module Records
    # A fixed, hand-kept set of people; changes only when somebody changes it.
    class List < Sequel::Model(:lists)
      include Versioned

      many_to_one :account
      many_to_many :people, join_table: :list_people, class: "NimbleLetter::Records::Person"

      def validate
        super
        errors.add(:name, "A list needs a name.") if name.to_s.strip.empty?
        errors.add(:name, "There is already a list of this name.") if List.exclude(id: id).where(name: name.to_s.strip).any?
      end

      # @param people [Sequel::Dataset] of people; who is on the list already stays on it
      def put(people)
        db[:list_people].insert_ignore.insert(%i[list_id person_id], people.select(Sequel.lit("?", id), Sequel[:people][:id]))
      end

      # @param people [Sequel::Dataset]
      def take_off(people)
        db[:list_people].where(list_id: id, person_id: people.select(Sequel[:people][:id])).delete
      end

      # @return [Hash{Integer=>Integer}] people on each, the bin left out
      def self.sizes
        db[:list_people]
          .join(:people, id: :person_id)
          .where(Sequel[:people][:deleted_at] => nil)
          .group_and_count(:list_id)
          .as_hash(:list_id, :count)
      end
    end
  end
end
