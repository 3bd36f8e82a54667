# frozen_string_literal: true

# Until when somebody said they are away, the last day included.
Sequel.migration do
  change { alter_table(:people) { add_column :away_until, Date } }
end
