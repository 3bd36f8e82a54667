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
      end
    end
  end
end
