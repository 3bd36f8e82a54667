# frozen_string_literal: true

# A plan holds what its letters say, so that writing in a letter reaches those on their way only when somebody lets it.
Sequel.migration do
  change do
    # What a letter said when a plan was made; written once, and shared by all plans that say the same.
    create_table(:letter_texts) do
      primary_key :id, type: :bigint
      foreign_key :letter_id, :letters, type: :bigint, null: false
      String :digest, size: 64, null: false
      column :content, :longtext, null: false
      unique %i[letter_id digest]
    end
    alter_table(:plans) do
      add_column :letters, :mediumtext # number of the text by letter; NULL, of plans made before: as it is written now
      add_column :words_only, TrueClass, null: false, default: false # its steps are those of the plan before
    end
    # A file that some plan's letter still brings along stays.
    alter_table(:attachments) { add_column :out_at, DateTime }
  end
end
