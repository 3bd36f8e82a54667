# frozen_string_literal: true

# A plan is a tree: steps are of a kind, forks have lanes, and a member waits for something until a time.
Sequel.migration do
  up do
    create_table(:lanes) do
      primary_key :id, type: :bigint
      foreign_key :fork_id, :steps, type: :bigint, null: false, on_delete: :cascade
      Integer :position, null: false
      String :words, size: 120
      column :test, :text # see Core::Journey::PlanJson; nil: the "otherwise"
      TrueClass :comes_back, null: false, default: true
    end
    alter_table(:steps) do
      add_column :kind, String, size: 10, null: false, default: "letter"
      # nil: the trunk. The position is that in the whole plan, lanes behind their fork.
      add_foreign_key :lane_id, :lanes, type: :bigint, on_delete: :cascade
      add_column :settings, :text # what its kind needs, see Records::Step
    end
    alter_table(:sequences) do
      add_column :leave_if, :text
      add_column :ends_at, DateTime, size: 6
      add_column :asked_on, Date # when its members were last asked whether leave_if holds
    end
    alter_table(:members) do
      # When the journey has to be asked again; nil while a letter that is written down has its time.
      add_column :due_at, DateTime, size: 6
      add_column :waits_for, String, size: 10 # time, reaction, nod, outcome
      add_column :begun, DateTime, size: 6
      add_column :spent, :text # numbers of the events that took a lane already
      add_column :since_event, :bigint, null: false, default: 0 # the last event before they joined
      add_column :paused_at, DateTime, size: 6
      add_column :moved, TrueClass, null: false, default: false # by hand, to another step
      add_index %i[due_at sequence_id], name: :members_due
      add_index :paused_at, name: :members_paused
    end
    run <<~SQL
      UPDATE members JOIN (
        SELECT member_id, MAX(id) AS joined FROM events WHERE kind = 'joined' AND member_id IS NOT NULL GROUP BY member_id
      ) AS joins ON joins.member_id = members.id
      SET members.since_event = joins.joined
    SQL
    run "UPDATE members SET waits_for = 'time' WHERE state = 'active'"
    create_table(:tasks) do
      primary_key :id, type: :bigint
      foreign_key :person_id, :people, type: :bigint, null: false
      foreign_key :account_id, :accounts, type: :bigint # whose it is; nil: nobody's yet
      foreign_key :sequence_id, :sequences, type: :bigint
      foreign_key :step_id, :steps, type: :bigint
      foreign_key :member_id, :members, type: :bigint
      String :words, size: 300, null: false
      Date :due_on
      String :state, size: 8, null: false, default: "open" # open, done, dropped
      String :outcome, size: 30
      String :note, size: 2000
      String :reason, size: 24 # why it was dropped
      DateTime :made_at, size: 6, null: false
      DateTime :updated_at, size: 6, null: false
      DateTime :done_at, size: 6
      Bignum :done_by_id
      Integer :version, null: false, default: 1
      unique %i[member_id step_id]
      index %i[state account_id due_on]
      index %i[person_id state]
    end
  end

  down do
    drop_table(:tasks)
    alter_table(:members) do
      drop_index %i[due_at sequence_id], name: :members_due
      drop_index :paused_at, name: :members_paused
      %i[due_at waits_for begun spent since_event paused_at moved].each { |column| drop_column column }
    end
    alter_table(:sequences) { %i[leave_if ends_at asked_on].each { |column| drop_column column } }
    alter_table(:steps) do
      drop_foreign_key :lane_id
      %i[kind settings].each { |column| drop_column column }
    end
    drop_table(:lanes)
  end
end
