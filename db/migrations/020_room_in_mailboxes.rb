# frozen_string_literal: true

# What a mailbox may send and when; and what became of a letter is written down at once, what follows from it for many together.
Sequel.migration do
  up do
    alter_table(:deliveries) do
      # The server took it; what follows for its member is still to be written.
      add_column :accepted, TrueClass, null: false, default: false
      # A later letter of its member: in a full mailbox it goes before first ones.
      add_column :follow_up, TrueClass, null: false, default: false
      add_index %i[mailbox_id state follow_up due_at], name: :deliveries_in_turn
    end
    alter_table(:deliveries) { drop_index %i[mailbox_id state due_at] }
    run <<~SQL
      UPDATE deliveries JOIN (SELECT DISTINCT member_id FROM deliveries WHERE state = 'sent') AS begun USING (member_id)
      SET deliveries.follow_up = TRUE WHERE deliveries.state = 'due'
    SQL
    alter_table(:mailboxes) do
      add_column :pace_from, Integer # seconds between two letters, at least
      add_column :pace_to, Integer # and at most; nil: as fast as they go
      add_column :hours_from, Integer, null: false, default: 0 # minutes of the firm's day in which letters leave
      add_column :hours_to, Integer, null: false, default: 1440
      add_column :free_at, DateTime # before it nothing leaves: the pace, a full day or the hours
      add_column :free_why, String, size: 10 # pace, full, hours
      add_column :reply_to, String, size: 190
      add_column :filing_address, String, size: 190 # gets a copy of each letter
      add_column :retired_at, DateTime
      add_column :code_digest, String, size: 64 # of the code that was sent to it
      add_column :code_sent_at, DateTime
      add_column :code_tries, Integer, null: false, default: 0
      add_column :version, Integer, null: false, default: 1
      add_column :updated_at, DateTime
    end
  end

  down do
    alter_table(:mailboxes) do
      %i[pace_from pace_to hours_from hours_to free_at free_why reply_to filing_address retired_at].each { |column| drop_column column }
      %i[code_digest code_sent_at code_tries version updated_at].each { |column| drop_column column }
    end
    alter_table(:deliveries) do
      add_index %i[mailbox_id state due_at]
      drop_index %i[mailbox_id state follow_up due_at], name: :deliveries_in_turn
      drop_column :accepted
      drop_column :follow_up
    end
  end
end
