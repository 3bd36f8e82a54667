# frozen_string_literal: true

# Whether the steps a plan inserts are only for people who arrive later, or also for those who stand right before them; and which act on
# many records took a member out, so that undoing it finds them.
Sequel.migration do
  change do
    alter_table(:plans) { add_column :only_later, TrueClass, null: false, default: false }
    alter_table(:members) do
      add_column :left_set, :bigint
      add_index %i[left_set], name: :members_left_by
    end
  end
end
