# frozen_string_literal: true

# Texts that are searched have a folded twin (Core::Fold) compared byte by byte; see docs/decisions/0003.
TWIN = {collate: "utf8mb4_nopad_bin"}.freeze

Sequel.migration do
  up do
    # A colleague may look after people without signing in.
    alter_table(:accounts) { set_column_allow_null :email }

    alter_table(:companies) do
      add_column :country, String, size: 120
      add_column :country_fold, String, size: 120, **TWIN
      add_column :website, String, size: 300
      add_column :website_fold, String, size: 300, **TWIN
      add_column :phone, String, size: 40
      add_column :phone_fold, String, size: 40, **TWIN
      add_foreign_key :owner_id, :accounts, type: :bigint
      add_column :version, Integer, null: false, default: 1
      add_column :updated_at, DateTime, size: 6
    end

    alter_table(:people) do
      add_column :known_as, String, size: 120
      add_column :known_as_fold, String, size: 120, **TWIN
      add_column :title_fold, String, size: 60, **TWIN
      add_column :name_order, String, size: 12, null: false, default: "given_first"
      add_column :standing_since, Date
      add_column :region, String, size: 120
      add_column :region_fold, String, size: 120, **TWIN
      add_column :language, String, size: 10
      add_column :time_zone_fold, String, size: 60, **TWIN
      add_column :birthday, Date
      add_column :phone_fold, String, size: 40, **TWIN
      add_column :company_fold, String, size: 200, **TWIN # the company's name, to be put in order by
      add_column :phone_end, String, size: 9, **TWIN
      add_column :domain_fold, String, size: 190, **TWIN
      add_column :consent_on, Date
      add_column :consent_how, String, size: 200
      add_column :consent_how_fold, String, size: 200, **TWIN
      add_foreign_key :consent_by_id, :accounts, type: :bigint
      add_column :address_blocked, TrueClass, null: false, default: false
      add_column :added_on, Date
      # In the bin since; emptied after thirty days.
      add_column :deleted_at, DateTime, size: 6
      add_column :emptied, TrueClass, null: false, default: false
    end
    run "UPDATE people JOIN companies ON companies.id = people.company_id SET people.company_fold = companies.name_fold"
    run "UPDATE people SET added_on = DATE(created_at), standing_since = DATE(created_at), consent_on = DATE(consent_at)"
    # "In the bin or not" comes first in each index: every question asks it, and what follows is then in order.
    sorted = %i[
      first_name_fold
      last_name_fold
      known_as_fold
      city_fold
      region_fold
      country_fold
      job_title_fold
      email_fold
      phone_fold
      company_fold
      standing
      consent
      language
      owner_id
      company_id
      birthday
      fitted_on
      added_on
      standing_since
      consent_on
      last_activity_at
    ]
    alter_table(:people) do
      drop_column :consent_at
      drop_index :city_fold
      drop_index %i[last_activity_at id]
      # Bytes are searched twice as fast as letters.
      set_column_type :search_fold, "varbinary(700)"
      sorted.each { |column| add_index [:deleted_at, column, :id], name: :"people_by_#{column}" }
      # Quick search reads this index alone, from one end to the other, and never the records (docs/decisions/0010).
      add_index %i[deleted_at search_fold], name: :people_by_words
      add_index :domain_fold
      add_index :phone_end
    end
    # Conditions on activity are answered from these indexes alone: by person, by kind and time, and by letter.
    alter_table(:events) do
      drop_index %i[person_id kind occurred_at]
      drop_index %i[kind occurred_at person_id]
      add_index %i[person_id occurred_at id], name: :events_of_person
      add_index %i[person_id kind occurred_at by_machine letter_id sequence_id], name: :events_activity
      add_index %i[kind occurred_at person_id by_machine letter_id sequence_id], name: :events_of_kind
      add_index %i[letter_id kind person_id occurred_at by_machine], name: :events_of_letter
    end

    alter_table(:members) { add_index %i[sequence_id state status person_id], name: :members_by_status }

    alter_table(:deals) do
      add_column :name_fold, String, size: 200, **TWIN
      add_foreign_key :owner_id, :accounts, type: :bigint
      add_column :expected_on, Date
      add_column :closed_on, Date
      add_column :version, Integer, null: false, default: 1
      add_column :updated_at, DateTime, size: 6
      add_index %i[person_id stage]
    end

    create_table(:person_addresses) do
      primary_key :id, type: :bigint
      foreign_key :person_id, :people, type: :bigint, null: false, on_delete: :cascade
      String :email, size: 190, null: false
      String :email_fold, size: 190, null: false, index: true, **TWIN
      unique %i[person_id email_fold]
    end

    create_table(:blocked_addresses) do
      primary_key :id, type: :bigint
      String :kind, size: 8, null: false # address, domain
      String :value, size: 190, null: false
      String :value_fold, size: 190, null: false, **TWIN
      String :reason, size: 300, null: false
      foreign_key :account_id, :accounts, type: :bigint
      DateTime :created_at, size: 6, null: false
      unique %i[value_fold kind]
    end

    create_table(:lists) do
      primary_key :id, type: :bigint
      String :name, size: 120, null: false, unique: true
      foreign_key :account_id, :accounts, type: :bigint
      String :made_from, size: 300
      Integer :version, null: false, default: 1
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
    end
    create_table(:list_people) do
      foreign_key :list_id, :lists, type: :bigint, on_delete: :cascade
      foreign_key :person_id, :people, type: :bigint
      primary_key %i[list_id person_id]
      index :person_id
    end

    alter_table(:saved_filters) do
      add_column :shared, TrueClass, null: false, default: true
      add_column :view, :text # columns and order of the table, as JSON
    end

    # A field the firm made: a column of its own in the table of its subject (docs/decisions/0009).
    create_table(:custom_fields) do
      primary_key :id, type: :bigint
      String :subject, size: 10, null: false
      String :name, size: 60, null: false
      String :label, size: 80, null: false
      String :type, size: 12, null: false
      column :choices, :text
      TrueClass :retired, null: false, default: false
      Integer :version, null: false, default: 1
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
      unique %i[subject name]
    end

    # What one act did to which records, so that it can be taken back.
    create_table(:change_sets) do
      primary_key :id, type: :bigint
      String :kind, size: 12, null: false # bulk, import, merge
      String :words, size: 300, null: false
      column :act, :longtext
      # waiting, running, done, undoing, undone, failed
      String :state, size: 10, null: false
      Integer :total, null: false, default: 0
      Integer :handled, null: false, default: 0
      Integer :kept, null: false, default: 0 # at undo: left alone, because somebody changed them since
      foreign_key :account_id, :accounts, type: :bigint
      String :problem, size: 500
      DateTime :created_at, size: 6, null: false
      DateTime :ended_at, size: 6
      index %i[state id]
    end
    create_table(:change_entries) do
      foreign_key :change_set_id, :change_sets, type: :bigint
      foreign_key :person_id, :people, type: :bigint
      primary_key %i[change_set_id person_id]
      # waiting, done, nothing (it was so already), undone, kept
      String :state, size: 8, null: false, default: "waiting"
      column :before, :text
      column :after, :text
      index :person_id
    end

    create_table(:imports) do
      primary_key :id, type: :bigint
      foreign_key :account_id, :accounts, type: :bigint
      foreign_key :change_set_id, :change_sets, type: :bigint
      String :file_name, size: 300, null: false
      String :file_key, size: 60, null: false
      String :digest, size: 64, null: false, index: true
      Bignum :bytes, null: false
      String :format, size: 8, null: false # csv, xlsx, vcard
      # reading (waits for the match of columns), checking, checked, taking_in, done, failed
      String :state, size: 10, null: false
      column :reading, :text, null: false # delimiter, encoding, sheet, habit of dates
      column :matching, :text # columns to fields
      column :choices, :text # what to do with each verdict, tags and lists to put on
      column :counts, :text
      Integer :rows, null: false, default: 0
      String :problem, size: 500
      Integer :version, null: false, default: 1
      DateTime :created_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
      index %i[state id]
    end
    create_table(:import_rows) do
      foreign_key :import_id, :imports, type: :bigint, on_delete: :cascade
      Integer :number, null: false
      primary_key %i[import_id number]
      String :verdict, size: 8, null: false # new, update, same, doubtful, refused
      Bignum :person_id
      String :reason, size: 300
      column :values, :mediumtext
      column :changes, :mediumtext
      column :cells, :mediumtext # as they stood in the file, for those that come back
      index %i[import_id verdict number]
    end
    # Rows that are taken in together; made when the word is given.
    create_table(:import_slices) do
      foreign_key :import_id, :imports, type: :bigint, on_delete: :cascade
      Integer :first, null: false
      Integer :last, null: false
      Integer :rows, null: false
      primary_key %i[import_id first]
      TrueClass :done, null: false, default: false
    end
    # What a column of this name was matched to the last time.
    create_table(:column_habits) do
      String :header_fold, size: 190, primary_key: true, **TWIN
      String :field, size: 90
      DateTime :updated_at, size: 6, null: false
    end

    # Whose record a fact belongs to may change when two records turn out to be one human; the fact itself never does.
    run "DROP TRIGGER events_are_not_changed"
    run <<~SQL
      CREATE TRIGGER events_are_not_changed BEFORE UPDATE ON events FOR EACH ROW
      IF NOT (NEW.id <=> OLD.id AND NEW.kind <=> OLD.kind AND NEW.occurred_at <=> OLD.occurred_at AND NEW.sequence_id <=> OLD.sequence_id
        AND NEW.step_id <=> OLD.step_id AND NEW.letter_id <=> OLD.letter_id AND NEW.delivery_id <=> OLD.delivery_id
        AND NEW.member_id <=> OLD.member_id
        AND NEW.account_id <=> OLD.account_id AND NEW.by_machine <=> OLD.by_machine AND NEW.data <=> OLD.data) THEN
        SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'events are appended only';
      END IF
    SQL

    # Two records that somebody looked at and kept apart.
    create_table(:not_doubles) do
      foreign_key :first_id, :people, type: :bigint
      foreign_key :second_id, :people, type: :bigint
      primary_key %i[first_id second_id]
    end

    create_table(:account_settings) do
      foreign_key :account_id, :accounts, type: :bigint
      String :key, size: 60
      primary_key %i[account_id key]
      column :value, :longtext, null: false
    end
  end

  down do
    drop_table :account_settings,
      :not_doubles,
      :column_habits,
      :import_slices,
      :import_rows,
      :imports,
      :change_entries,
      :change_sets,
      :custom_fields,
      :list_people,
      :lists,
      :blocked_addresses,
      :person_addresses
    raise Sequel::Error, "the columns of shared records cannot be taken back without losing what is in them"
  end
end
