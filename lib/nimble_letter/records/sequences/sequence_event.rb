# frozen_string_literal: true

module NimbleLetter
  module Records
    # What happened to a sequence as a whole; appended and never edited.
    class SequenceEvent < Sequel::Model(:sequence_events)
      extend JsonColumn

      json_column :data

      many_to_one :account
    end
  end
end
