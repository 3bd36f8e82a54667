# frozen_string_literal: true

module NimbleLetter
  module Records
    # What happened; appended and never edited.
    class Event < Sequel::Model(:events)
      extend JsonColumn

      json_column :data

      dataset_module do
        def newest_first = order(Sequel.desc(:occurred_at), Sequel.desc(:id))

        def by_people = where(by_machine: false)

        # Without what is about a letter that counts as not sent. A share of those sent is of these only: somebody may open a letter
        # whose server never said that it took it, and counts when it is settled that it arrived.
        def about_sent
          unsent = Delivery.exclude(state: "sent").select(:id)
          where(Sequel.|({delivery_id: nil}, Sequel.~(delivery_id: unsent)))
        end
      end
    end
  end
end
