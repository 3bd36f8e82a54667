# frozen_string_literal: true

# How many were said to join at once by its rules, of a draft that is to start at a time.
Sequel.migration do
  change do
    alter_table(:sequences) do
      add_column :start_joining, Integer
    end
  end
end
