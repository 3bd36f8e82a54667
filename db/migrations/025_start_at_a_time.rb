# frozen_string_literal: true

# A draft that is to start at a time, with the letters that were read back to whoever said so; or why it did not.
Sequel.migration do
  change do
    alter_table(:sequences) do
      add_column :start_at, DateTime
      add_foreign_key :start_by_id, :accounts, type: :bigint
      add_column :start_letters, Integer
      add_column :start_refused, String, size: 400
      add_index :start_at
    end
  end
end
