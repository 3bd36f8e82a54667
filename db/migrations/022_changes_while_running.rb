# frozen_string_literal: true

# A running sequence is changed by a proposal that takes effect as a plan with the next number. What somebody has passed is never
# deleted, only taken out of later plans.
Sequel.migration do
  change do
    alter_table(:sequences) do
      add_column :proposal, :mediumtext # steps, leave_on, leave_if and ends_at, as they came
      add_column :proposal_version, Integer, null: false, default: 0
      add_foreign_key :proposed_by_id, :accounts, type: :bigint
      add_column :proposed_at, DateTime
    end
    alter_table(:steps) { add_column :out_at, DateTime }
    alter_table(:lanes) { add_column :out_at, DateTime }
    alter_table(:members) { add_index %i[sequence_id plan state], name: :members_by_plan }
  end
end
