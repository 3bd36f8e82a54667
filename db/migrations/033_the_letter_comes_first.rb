# frozen_string_literal: true

# What nobody has named goes by the subject of its letter. Who sends may take it back until so long by the wall clock.
Sequel.migration do
  change do
    alter_table(:letters) { add_column :named, TrueClass, null: false, default: true }
    alter_table(:sequences) do
      add_column :named, TrueClass, null: false, default: true
      add_column :undo_until, DateTime, size: 6
    end
  end
end
