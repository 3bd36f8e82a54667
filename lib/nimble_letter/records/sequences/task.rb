# frozen_string_literal: true

module NimbleLetter
  module Records
    # Something a colleague does for a person: a call, a visit, a card. state: open, done, or dropped with a reason.
    class Task < Sequel::Model(:tasks)
      include Versioned

      many_to_one :person
      many_to_one :account
      many_to_one :sequence
      many_to_one :step
      many_to_one :member

      dataset_module do
        # Those of a colleague, and those that nobody else would see: nobody's, and those of whoever cannot sign in any more.
        def seen_by(account) =
          where(Sequel.|({account_id: account.id}, {account_id: nil}, Sequel.~(account_id: Account.able_to_sign_in.select(:id))))

        # @return [Sequel::Dataset] soonest first; nobody's who is in the bin
        def in_order = where(person_id: Person.kept.select(Sequel[:people][:id])).order(:due_on, :id)
      end
    end
  end
end
