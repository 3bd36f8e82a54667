# frozen_string_literal: true

# Steps can be counted from joining, stand on a date or around a date of the person's, and keep to chosen days of the week; see
# Core::Calendar::Timing.
Sequel.migration do
  change do
    alter_table(:steps) do
      add_column :counted, String, size: 10, null: false, default: "step"
      add_column :on_date, Date
      add_column :field, String, size: 90
      add_column :yearly, TrueClass, null: false, default: false
      add_column :weekdays, String, size: 7, null: false, default: "0123456"
      add_column :days, String, size: 8, null: false, default: "working"
      add_column :late, String, size: 8, null: false, default: "skip"
      add_column :no_date, String, size: 8, null: false, default: "skip"
    end
  end
end
