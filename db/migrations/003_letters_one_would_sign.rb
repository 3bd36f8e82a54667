# frozen_string_literal: true

# Designed letters, passages, pictures, versions, test letters, lookups, and what is kept for one letter only.
Sequel.migration do
  change do
    alter_table(:letters) do
      add_column :manner, String, size: 10, null: false, default: "plain"
      add_column :category, String, size: 60
      add_column :language, String, size: 8, null: false, default: "en"
      add_column :about, String, size: 10, null: false, default: "anybody"
      add_column :set_aside, :text # codes of advice, as JSON
      add_column :archived_at, DateTime, size: 6
      add_column :words, :mediumtext # what is searched: name, subject, text
      add_index %i[archived_at updated_at]
    end

    create_table(:letter_versions) do
      primary_key :id, type: :bigint
      foreign_key :letter_id, :letters, type: :bigint, null: false
      Integer :number, null: false
      foreign_key :account_id, :accounts, type: :bigint
      String :kind, size: 12, null: false # typed, restored, set_aside
      column :content, :longtext, null: false
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
      unique %i[letter_id number]
    end
    create_table(:letter_favourites) do
      foreign_key :account_id, :accounts, type: :bigint, null: false
      foreign_key :letter_id, :letters, type: :bigint, null: false
      primary_key %i[account_id letter_id]
    end
    # Who has a letter open; by the database's own clock, since it is about people and not about the post.
    create_table(:letter_presences) do
      foreign_key :letter_id, :letters, type: :bigint, null: false
      String :tab, size: 40, null: false
      foreign_key :account_id, :accounts, type: :bigint, null: false
      DateTime :seen_at, size: 6, null: false
      primary_key %i[letter_id tab]
    end

    create_table(:passages) do
      primary_key :id, type: :bigint
      String :name, size: 120, null: false
      column :documents, :longtext, null: false # by language; "" is the one for all others
      foreign_key :account_id, :accounts, type: :bigint
      Integer :version, null: false, default: 1
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
    end
    create_table(:pictures) do
      primary_key :id, type: :bigint
      String :key, size: 22, null: false, unique: true
      String :name, size: 160, null: false
      String :digest, size: 64, null: false, index: true
      String :mime, size: 40, null: false
      Integer :width, null: false
      Integer :height, null: false
      Integer :bytes, null: false
      column :data, :mediumblob, null: false
      foreign_key :account_id, :accounts, type: :bigint
      DateTime :created_at, size: 6, null: false
    end
    create_table(:attachments) do
      primary_key :id, type: :bigint
      foreign_key :letter_id, :letters, type: :bigint, null: false
      String :name, size: 160, null: false
      String :mime, size: 120, null: false
      Integer :bytes, null: false
      column :data, :mediumblob, null: false
      DateTime :created_at, size: 6, null: false
    end
    alter_table(:accounts) { add_column :signature, :text }
    alter_table(:mailboxes) { add_column :signature, :text }

    # The block a line stands after; NULL: after the first.
    alter_table(:personal_lines) { add_column :after, String, size: 500 }
    create_table(:letter_fills) do
      foreign_key :step_id, :steps, type: :bigint, null: false, on_delete: :cascade
      foreign_key :person_id, :people, type: :bigint, null: false
      String :field, size: 80, null: false
      String :value, size: 500, null: false
      foreign_key :account_id, :accounts, type: :bigint
      DateTime :updated_at, size: 6, null: false
      primary_key %i[step_id person_id field]
    end

    # Another subject or another letter that half of the members get.
    alter_table(:steps) { add_column :other, :longtext }
    alter_table(:deliveries) { add_column :version, String, size: 1 }

    create_table(:test_letters) do
      primary_key :id, type: :bigint
      foreign_key :letter_id, :letters, type: :bigint, null: false
      foreign_key :person_id, :people, type: :bigint, null: false
      foreign_key :account_id, :accounts, type: :bigint, null: false
      String :address, size: 190, null: false
      String :state, size: 10, null: false, default: "waiting" # waiting, sent, failed
      String :reason, size: 300
      String :message_id, size: 190
      DateTime :created_at, size: 6, null: false
      index %i[state id]
    end

    create_table(:lookup_answers) do
      String :lookup, size: 40, null: false
      String :asked, size: 190, null: false
      column :answer, :text # NULL: no answer
      String :reason, size: 200
      DateTime :answered_at, size: 6, null: false # by the database's clock: the world outside has no practice clock
      DateTime :for_day, size: 6, null: false
      primary_key %i[lookup asked for_day]
    end
  end
end
