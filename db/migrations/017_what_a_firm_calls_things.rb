# frozen_string_literal: true

require "json"

# What members' statuses are made of is data, a named set for each sequence; the ladder so far is the first set.
Sequel.migration do
  up do
    create_table(:status_sets) do
      primary_key :id, type: :bigint
      String :name, size: 80, null: false
      column :statuses, :text, null: false # see Core::Statuses::StatusSetJson
      Integer :version, null: false, default: 1
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
    end
    alter_table(:sequences) { add_foreign_key :status_set_id, :status_sets, type: :bigint }
    first = [
      ["to_write", "to be written to", %w[joined], false],
      ["written", "written to", %w[sent], false],
      ["read", "has opened", %w[opened], false],
      ["curious", "has clicked", %w[clicked], false],
      ["not_reached", "not reached", %w[bounced refused], false],
      ["declined", "wants no letters", %w[unsubscribed complained], true],
      ["answered", "has answered", %w[replied], true],
      ["won", "converted", %w[converted], true]
    ].map { |key, words, events, response| {key: key, words: words, events: events, response: response} }
    now = Sequel.function(:UTC_TIMESTAMP, 6)
    set = from(:status_sets).insert(name: "From writing to converting", statuses: JSON.generate(first), created_at: now, updated_at: now)
    from(:sequences).update(status_set_id: set)
  end

  down do
    alter_table(:sequences) { drop_foreign_key :status_set_id }
    drop_table(:status_sets)
  end
end
