# frozen_string_literal: true

# Passages keep their versions like letters; a version says which one it went back to.
Sequel.migration do
  change do
    alter_table(:letter_versions) { add_column :went_back_to, Integer }
    create_table(:passage_versions) do
      primary_key :id, type: :bigint
      foreign_key :passage_id, :passages, type: :bigint, null: false, on_delete: :cascade
      Integer :number, null: false
      foreign_key :account_id, :accounts, type: :bigint
      String :kind, size: 12, null: false # typed, restored, set_aside
      Integer :went_back_to
      column :content, :longtext, null: false
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
      DateTime :begun_at, size: 6, null: false
      DateTime :left_at, size: 6, null: false
      unique %i[passage_id number]
    end
  end
end
