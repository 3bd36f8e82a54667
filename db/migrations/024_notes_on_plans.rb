# frozen_string_literal: true

# Notes in the margin of a plan, for colleagues. They change nothing that anybody gets, so they are written whether it runs or not.
Sequel.migration do
  change do
    create_table(:plan_notes) do
      primary_key :id, type: :bigint
      foreign_key :sequence_id, :sequences, type: :bigint, null: false
      foreign_key :step_id, :steps, type: :bigint # NULL: about the whole plan
      String :text, size: 2000, null: false
      foreign_key :account_id, :accounts, type: :bigint
      Integer :version, null: false, default: 1
      DateTime :created_at, null: false
      DateTime :updated_at, null: false
    end
  end
end
