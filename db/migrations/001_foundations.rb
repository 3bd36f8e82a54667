# frozen_string_literal: true

# Texts that are searched have a folded twin (Core::Fold) compared byte by byte; see docs/decisions/0003.
FOLDED = {collate: "utf8mb4_nopad_bin"}.freeze

Sequel.migration do
  up do
    create_table(:accounts) do
      primary_key :id, type: :bigint
      String :email, size: 190, null: false, unique: true
      Integer :status_id, null: false, default: 2 # Rodauth: 2 is verified
      String :password_hash, size: 255
      String :name, size: 120, null: false
      String :phone, size: 40
      String :role, size: 20, null: false, default: "colleague"
      DateTime :created_at, size: 6, null: false
    end
    # Rodauth's own tables for lock-out.
    create_table(:account_login_failures) do
      foreign_key :id, :accounts, type: :bigint, primary_key: true
      Integer :number, null: false, default: 1
    end
    create_table(:account_lockouts) do
      foreign_key :id, :accounts, type: :bigint, primary_key: true
      String :key, null: false
      DateTime :deadline, null: false
      DateTime :email_last_sent
    end

    create_table(:settings) do
      String :key, size: 60, primary_key: true
      column :value, :longtext, null: false
    end

    create_table(:companies) do
      primary_key :id, type: :bigint
      String :name, size: 200, null: false
      String :name_fold, size: 200, index: true, **FOLDED
      String :type, size: 30, index: true
      String :city, size: 120
      String :city_fold, size: 120, index: true, **FOLDED
      DateTime :created_at, size: 6, null: false
    end

    create_table(:people) do
      primary_key :id, type: :bigint
      foreign_key :company_id, :companies, type: :bigint
      foreign_key :owner_id, :accounts, type: :bigint
      String :standing, size: 20, null: false, default: "lead", index: true
      String :title, size: 60
      %i[first_name last_name city country job_title].each do |name|
        String name, size: 120
        String :"#{name}_fold", size: 120, **FOLDED
      end
      String :email, size: 190
      String :email_fold, size: 190, index: true, **FOLDED
      String :phone, size: 40
      String :time_zone, size: 60
      String :consent, size: 10, null: false, default: "unknown"
      DateTime :consent_at, size: 6
      TrueClass :do_not_mail, null: false, default: false
      TrueClass :address_failed, null: false, default: false
      Date :fitted_on
      String :search_fold, size: 700, **FOLDED
      DateTime :last_activity_at, size: 6
      String :last_activity_kind, size: 24
      Integer :version, null: false, default: 1
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
      index :city_fold
      index %i[last_activity_at id]
    end

    create_table(:tags) do
      primary_key :id, type: :bigint
      String :name, size: 80, null: false
      String :name_fold, size: 80, null: false, unique: true, **FOLDED
    end
    create_table(:people_tags) do
      foreign_key :person_id, :people, type: :bigint
      foreign_key :tag_id, :tags, type: :bigint
      primary_key %i[person_id tag_id]
      index %i[tag_id person_id]
    end

    create_table(:deals) do
      primary_key :id, type: :bigint
      foreign_key :person_id, :people, type: :bigint, null: false
      foreign_key :company_id, :companies, type: :bigint
      String :name, size: 200, null: false
      String :stage, size: 40, null: false
      Bignum :value_pence, null: false, default: 0
      DateTime :created_at, size: 6, null: false
    end

    create_table(:saved_filters) do
      primary_key :id, type: :bigint
      String :name, size: 120, null: false, unique: true
      column :condition, :longtext, null: false
      foreign_key :account_id, :accounts, type: :bigint
      Integer :version, null: false, default: 1
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
    end

    create_table(:letters) do
      primary_key :id, type: :bigint
      String :name, size: 160, null: false
      %i[subject preview body].each { |part| column part, :longtext, null: false }
      foreign_key :account_id, :accounts, type: :bigint
      Integer :version, null: false, default: 1
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false, index: true
    end

    create_table(:mailboxes) do
      primary_key :id, type: :bigint
      String :address, size: 190, null: false, unique: true
      String :name, size: 120, null: false
      foreign_key :account_id, :accounts, type: :bigint
      Integer :daily_limit, null: false, default: 200
      DateTime :proved_at, size: 6
    end

    create_table(:sequences) do
      primary_key :id, type: :bigint
      String :name, size: 160, null: false
      String :state, size: 12, null: false, default: "draft"
      column :audience, :longtext, null: false
      column :sender, :longtext, null: false
      column :leave_on, :longtext, null: false
      foreign_key :account_id, :accounts, type: :bigint
      DateTime :started_at, size: 6
      DateTime :ended_at, size: 6
      Integer :version, null: false, default: 1
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
    end
    create_table(:steps) do
      primary_key :id, type: :bigint
      foreign_key :sequence_id, :sequences, type: :bigint, null: false
      Integer :position, null: false
      foreign_key :letter_id, :letters, type: :bigint
      Integer :amount, null: false, default: 0
      String :unit, size: 14, null: false, default: "working_days"
      Integer :from_minute, null: false, default: 540
      Integer :to_minute, null: false, default: 690
      String :zone, size: 8, null: false, default: "theirs"
      index %i[sequence_id position]
    end

    create_table(:members) do
      primary_key :id, type: :bigint
      foreign_key :sequence_id, :sequences, type: :bigint, null: false
      foreign_key :person_id, :people, type: :bigint, null: false
      foreign_key :mailbox_id, :mailboxes, type: :bigint, null: false
      Integer :round, null: false, default: 1
      String :state, size: 10, null: false, default: "active"
      Integer :passed, null: false, default: 0
      DateTime :base, size: 6, null: false
      DateTime :joined_at, size: 6, null: false
      String :left_reason, size: 24
      String :status, size: 20, null: false
      TrueClass :status_by_hand, null: false, default: false
      unique %i[sequence_id person_id round]
      index %i[person_id state]
    end

    create_table(:deliveries) do
      primary_key :id, type: :bigint
      String :key, size: 22, null: false, unique: true
      foreign_key :member_id, :members, type: :bigint, null: false
      foreign_key :sequence_id, :sequences, type: :bigint, null: false
      foreign_key :step_id, :steps, type: :bigint, null: false
      foreign_key :person_id, :people, type: :bigint, null: false
      foreign_key :letter_id, :letters, type: :bigint
      foreign_key :mailbox_id, :mailboxes, type: :bigint, null: false
      Integer :round, null: false, default: 1
      # ahead: the step before is not out yet; due: next for its member; claimed; on_wire; sent; failed; skipped; in_doubt
      String :state, size: 10, null: false
      DateTime :due_at, size: 6, null: false
      Integer :attempts, null: false, default: 0
      String :lease, size: 36
      DateTime :leased_until, size: 6
      String :message_id, size: 190, unique: true
      String :subject, size: 998
      column :html, :mediumtext
      column :text, :mediumtext
      column :links, :text
      DateTime :sent_at, size: 6
      String :reason, size: 300
      unique %i[member_id step_id round]
      index %i[state due_at]
      index %i[sequence_id step_id state]
      index %i[mailbox_id state sent_at]
      index %i[person_id sent_at]
    end

    create_table(:personal_lines) do
      primary_key :id, type: :bigint
      foreign_key :step_id, :steps, type: :bigint, null: false, on_delete: :cascade
      foreign_key :person_id, :people, type: :bigint, null: false
      column :line, :text, null: false
      foreign_key :account_id, :accounts, type: :bigint
      DateTime :updated_at, size: 6, null: false
      unique %i[step_id person_id]
    end

    create_table(:events) do
      primary_key :id, type: :bigint
      String :kind, size: 24, null: false
      Bignum :person_id, null: false
      DateTime :occurred_at, size: 6, null: false
      Bignum :sequence_id
      Bignum :step_id
      Bignum :letter_id
      Bignum :delivery_id
      Bignum :member_id
      Bignum :account_id
      TrueClass :by_machine, null: false, default: false
      column :data, :text
      index %i[person_id kind occurred_at]
      index %i[kind occurred_at person_id]
      index %i[sequence_id kind step_id person_id]
      index %i[delivery_id kind]
    end

    create_table(:incoming) do
      primary_key :id, type: :bigint
      String :file_key, size: 190, null: false, unique: true
      String :message_id, size: 500
      String :kind, size: 12, null: false # reply, automatic, bounce, unsubscribe, unmatched
      foreign_key :delivery_id, :deliveries, type: :bigint
      foreign_key :person_id, :people, type: :bigint
      String :from_address, size: 190
      String :from_name, size: 190
      String :subject, size: 998
      column :text, :mediumtext, null: false
      column :raw, :mediumblob, null: false
      DateTime :received_at, size: 6, null: false, index: true
      String :sort, size: 12, null: false, default: "new"
      DateTime :updated_at, size: 6, null: false
      Integer :version, null: false, default: 1
      index %i[kind sort received_at]
    end

    create_table(:practice_clock) do
      primary_key :id, type: :bigint
      DateTime :now, size: 6, null: false
      DateTime :target, size: 6
    end
    create_table(:practice_reactions) do
      primary_key :id, type: :bigint
      DateTime :at, size: 6, null: false
      String :kind, size: 20, null: false
      column :data, :mediumtext, null: false
      TrueClass :done, null: false, default: false
      index %i[done at]
    end
    create_table(:practice_letters) do
      primary_key :id, type: :bigint
      String :recipient, size: 190, null: false, index: true
      String :message_id, size: 190, null: false, index: true
      DateTime :received_at, size: 6, null: false
      column :raw, :mediumtext, null: false
    end

    # Events are facts: the database itself refuses to change or remove one.
    run <<~SQL
      CREATE TRIGGER events_are_not_changed BEFORE UPDATE ON events FOR EACH ROW
      SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'events are appended only'
    SQL
    run <<~SQL
      CREATE TRIGGER events_are_not_removed BEFORE DELETE ON events FOR EACH ROW
      SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'events are appended only'
    SQL
  end

  down { raise Sequel::Error, "the first migration has nothing before it" }
end
