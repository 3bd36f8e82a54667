# frozen_string_literal: true

require "json"

# What was started goes by a frozen plan with a number, which its members carry; sequences have events of their own.
Sequel.migration do
  up do
    create_table(:plans) do
      primary_key :id, type: :bigint
      foreign_key :sequence_id, :sequences, type: :bigint, null: false
      Integer :number, null: false
      column :tree, :mediumtext, null: false # see Core::Journey::PlanJson
      foreign_key :account_id, :accounts, type: :bigint
      DateTime :made_at, size: 6, null: false
      unique %i[sequence_id number]
    end
    create_table(:sequence_events) do
      primary_key :id, type: :bigint
      foreign_key :sequence_id, :sequences, type: :bigint, null: false
      String :kind, size: 24, null: false # started, paused, resumed, stopped, ended, carried_over
      DateTime :occurred_at, size: 6, null: false
      Bignum :account_id
      column :data, :text
      index %i[sequence_id id]
    end
    %w[UPDATE DELETE].each do |act|
      run <<~SQL
        CREATE TRIGGER sequence_events_stay_on_#{act.downcase} BEFORE #{act} ON sequence_events FOR EACH ROW
        SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'events are appended only'
      SQL
    end
    alter_table(:members) { add_column :plan, Integer, null: false, default: 1 }

    now = from(:practice_clock).max(:now) || get(Sequel.function(:UTC_TIMESTAMP, 6))
    from(:sequences).exclude(state: "draft").order(:id).each do |sequence|
      steps = from(:steps).where(sequence_id: sequence[:id]).order(:position).map do |step|
        timing = step.slice(:amount, :unit, :from_minute, :to_minute, :zone)
        {kind: "letter", id: step[:id], letter_id: step[:letter_id], timing: timing}
      end
      from(:plans).insert(
        sequence_id: sequence[:id],
        number: 1,
        tree: JSON.generate(steps: steps, leave_on: JSON.parse(sequence[:leave_on])),
        account_id: sequence[:account_id],
        made_at: sequence[:started_at] || now
      )
      # Who joined before there were plans with a number joined the first.
      from(:sequence_events).insert(
        sequence_id: sequence[:id],
        kind: "carried_over",
        occurred_at: now,
        data: JSON.generate(plan: 1, members: from(:members).where(sequence_id: sequence[:id]).count)
      )
    end
  end

  down do
    alter_table(:members) { drop_column :plan }
    drop_table(:sequence_events, :plans)
  end
end
