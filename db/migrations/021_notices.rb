# frozen_string_literal: true

# Short mails of our own, such as the code that proves a mailbox; gone as soon as they are taken.
Sequel.migration do
  change do
    create_table(:notices) do
      primary_key :id, type: :bigint
      foreign_key :mailbox_id, :mailboxes, type: :bigint, null: false, on_delete: :cascade # it comes from
      String :address, size: 190, null: false
      String :subject, size: 200, null: false
      column :text, :text, null: false
      String :state, size: 8, null: false, default: "waiting" # waiting, on_wire, failed
      DateTime :leased_until
      String :reason, size: 300
      DateTime :made_at, null: false
      index %i[state id]
    end
  end
end
