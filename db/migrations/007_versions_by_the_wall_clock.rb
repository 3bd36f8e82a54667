# frozen_string_literal: true

# When a version was begun and last typed at, by the database's own clock: the practice clock stands still while one writes.
Sequel.migration do
  change do
    alter_table(:letter_versions) do
      add_column :begun_at, DateTime, size: 6, null: false, default: Sequel.lit("CURRENT_TIMESTAMP(6)")
      add_column :left_at, DateTime, size: 6, null: false, default: Sequel.lit("CURRENT_TIMESTAMP(6)")
    end
  end
end
