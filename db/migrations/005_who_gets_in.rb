# frozen_string_literal: true

# Sessions that end, tries that are counted, what matters to safety, and columns that are made apart from the page.
Sequel.migration do
  log = ->(db) { Sequel.qualify("log_of_#{db.get(Sequel.function(:DATABASE))}", :lines) }

  up do
    # Tries are slowed down now; nobody is shut out.
    drop_table :account_lockouts, :account_login_failures

    create_table(:account_active_session_keys) do
      primary_key :id, type: :bigint
      foreign_key :account_id, :accounts, type: :bigint, null: false, on_delete: :cascade
      String :session_id, size: 190, null: false
      DateTime :created_at, size: 6, null: false, default: Sequel.lit("CURRENT_TIMESTAMP(6)")
      DateTime :last_use, size: 6, null: false, default: Sequel.lit("CURRENT_TIMESTAMP(6)"), index: true
      String :agent, size: 60
      String :connection, size: 45
      unique %i[account_id session_id]
    end

    create_table(:allowances) do
      column :key, "char(32) CHARACTER SET ascii COLLATE ascii_bin", primary_key: true
      DateTime :full_at, size: 6, null: false, index: true
    end

    run "CREATE DATABASE IF NOT EXISTS #{literal(Sequel.identifier("log_of_#{get(Sequel.function(:DATABASE))}"))} " \
        "CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci"
    create_table(log.call(self)) do
      primary_key :id, type: :bigint
      DateTime :at, size: 6, null: false, default: Sequel.lit("CURRENT_TIMESTAMP(6)")
      String :kind, size: 30, null: false
      Bignum :account_id
      String :who, size: 190 # as it was then: a name, or the address somebody tried
      String :connection, size: 45
      String :about, size: 300
      column :data, :text
      index %i[kind id]
    end

    # Whether its column is there; the clerk makes it.
    alter_table(:custom_fields) { add_column :made, TrueClass, null: false, default: true }

    # A demo that was built before says now that it is one.
    maren = from(:accounts).where(email: "maren@ternandfallow.example").get(:email)
    from(:settings).insert(key: "demo_sign_in", value: "\"#{maren}\"") if maren && from(:settings).where(key: "demo_built").any?
  end

  down do
    raise Sequel::Error, "the log of safety is not taken back"
  end
end
