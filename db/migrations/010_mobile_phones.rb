# frozen_string_literal: true

# A second number of a person, which files and cards have a column for.
Sequel.migration do
  change do
    alter_table(:people) do
      add_column :mobile, String, size: 40
      add_column :mobile_fold, String, size: 40, collate: "utf8mb4_nopad_bin"
    end
  end
end
