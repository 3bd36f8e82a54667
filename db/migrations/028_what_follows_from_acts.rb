# frozen_string_literal: true

# Whether the steps a plan inserts are only for people who arrive later, or also for those who stand right before them; which act on many
# records took a member out, and between which events an act was in force, so that undoing it finds who left and who joined because of it.
Sequel.migration do
  change do
    alter_table(:plans) { add_column :only_later, TrueClass, null: false, default: false }
    alter_table(:members) do
      add_column :left_set, :bigint
      add_index %i[left_set], name: :members_left_by
    end
    # The last event before an act and before its undo: the clock may stand still in between.
    alter_table(:change_sets) do
      add_column :since_event, :bigint, null: false, default: 0
      add_column :upto_event, :bigint
    end
  end
end
