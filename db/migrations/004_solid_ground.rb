# frozen_string_literal: true

# What could not be worked on, mailboxes that rest, and test letters that a lost worker held.
Sequel.migration do
  change do
    create_table(:set_asides) do
      primary_key :id, type: :bigint
      String :kind, size: 12, null: false # mail, letter, reaction, act, file, round
      String :key, size: 190, null: false
      String :reason, size: 500, null: false
      column :detail, :text # for whoever mends the cause
      column :source, :mediumblob # the beginning of a piece of mail, to be looked at
      Integer :tries, null: false, default: 1
      TrueClass :again, null: false, default: false # somebody asked for another try
      foreign_key :delivery_id, :deliveries, type: :bigint, on_delete: :cascade
      DateTime :first_at, size: 6, null: false
      DateTime :last_at, size: 6, null: false
      unique %i[kind key]
      index %i[last_at id]
      index :delivery_id
    end

    alter_table(:mailboxes) do
      add_column :fails_in_row, Integer, null: false, default: 0
      add_column :failing_as, String, size: 60
      add_column :failing_words, String, size: 300
      add_column :rests_until, DateTime, size: 6
    end

    alter_table(:deliveries) { add_index %i[mailbox_id state due_at] }

    alter_table(:test_letters) do
      add_column :leased_until, DateTime, size: 6 # by the database's own clock
    end
  end
end
