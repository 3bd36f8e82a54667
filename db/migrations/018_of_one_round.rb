# frozen_string_literal: true

# What is written into one letter belongs to one membership; and with each letter that leaves it is recorded how things stood.
Sequel.migration do
  newest = <<~SQL
    JOIN steps ON steps.id = %<table>s.step_id
    JOIN members ON members.sequence_id = steps.sequence_id AND members.person_id = %<table>s.person_id
    LEFT JOIN members AS later ON later.sequence_id = members.sequence_id AND later.person_id = members.person_id
      AND later.round > members.round
    SET %<table>s.member_id = members.id WHERE later.id IS NULL
  SQL

  up do
    # 0: of whoever has not joined yet
    alter_table(:personal_lines) do
      add_column :member_id, :bigint, null: false, default: 0
      add_index :step_id, name: :personal_lines_of_step
    end
    alter_table(:personal_lines) do
      drop_index %i[step_id person_id], name: :step_id
      add_index %i[step_id person_id member_id], unique: true, name: :personal_lines_once
    end
    alter_table(:letter_fills) { add_column :member_id, :bigint, null: false, default: 0 }
    run "ALTER TABLE letter_fills DROP PRIMARY KEY, ADD PRIMARY KEY (step_id, person_id, member_id, field)"
    %w[personal_lines letter_fills].each { |table| run "UPDATE #{table} #{format(newest, table: table)}" }

    alter_table(:members) { add_column :joined_by, String, size: 20, null: false, default: "start" }
    alter_table(:deliveries) do
      # as it was when the letter left
      add_column :owner_id, :bigint
      add_column :standing, String, size: 20
      add_column :company_type, String, size: 60
      add_column :joined_by, String, size: 20
    end
  end

  down do
    alter_table(:deliveries) { %i[owner_id standing company_type joined_by].each { |column| drop_column column } }
    alter_table(:members) { drop_column :joined_by }
    from(:letter_fills).where(member_id: from(:members).exclude(state: "active").select(:id)).delete
    run "ALTER TABLE letter_fills DROP PRIMARY KEY, ADD PRIMARY KEY (step_id, person_id, field)"
    alter_table(:letter_fills) { drop_column :member_id }
    from(:personal_lines).where(member_id: from(:members).exclude(state: "active").select(:id)).delete
    alter_table(:personal_lines) do
      add_index %i[step_id person_id], unique: true, name: :step_id
      drop_index %i[step_id person_id member_id], name: :personal_lines_once
    end
    alter_table(:personal_lines) do
      drop_index :step_id, name: :personal_lines_of_step
      drop_column :member_id
    end
  end
end
