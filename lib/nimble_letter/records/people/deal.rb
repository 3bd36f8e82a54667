# frozen_string_literal: true

module NimbleLetter
  module Records
    # A piece of possible work with a stage and a value in pence.
    class Deal < Sequel::Model(:deals)
      include Versioned

      many_to_one :person
      many_to_one :company
      many_to_one :owner, class: "NimbleLetter::Records::Account", key: :owner_id

      dataset_module do
        # Those of people who are not in the bin.
        def live = where(person_id: Person.kept.select(:id))

        def newest_first = order(Sequel.desc(:created_at), Sequel.desc(:id))
      end

      def before_save
        set(name_fold: Core::Fold.call(name))
        super
      end

      def validate
        super
        errors.add(:name, "A deal needs a name.") if Core::Fold.call(name).nil?
        errors.add(:value_pence, "A deal is worth nothing or more.") if value_pence.to_i.negative?
      end
    end
  end
end
