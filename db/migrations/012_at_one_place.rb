# frozen_string_literal: true

# A member stands before one step, and only that step's letter is written down; what lies further ahead is reckoned.
Sequel.migration do
  up do
    alter_table(:members) do
      # nil: behind the last one
      add_foreign_key :step_id, :steps, type: :bigint
      # which version of a letter they get, by step: {"7": "a"}
      add_column :versions, :text
      add_index %i[sequence_id step_id state], name: :members_by_place
    end
    run <<~SQL
      UPDATE members JOIN steps ON steps.sequence_id = members.sequence_id AND steps.position = members.passed
      SET members.step_id = steps.id
    SQL
    run <<~SQL
      UPDATE members JOIN (
        SELECT member_id, JSON_OBJECTAGG(step_id, version) AS versions FROM deliveries WHERE version IS NOT NULL GROUP BY member_id
      ) AS dealt ON dealt.member_id = members.id
      SET members.versions = dealt.versions
    SQL
    # These never came near the wire.
    from(:deliveries).where(state: "ahead").delete
    alter_table(:members) { drop_column :passed }
  end

  down do
    alter_table(:members) { add_column :passed, Integer, null: false, default: 0 }
    run <<~SQL
      UPDATE members LEFT JOIN steps ON steps.id = members.step_id
      SET members.passed = COALESCE(steps.position, (SELECT COUNT(*) FROM steps AS own WHERE own.sequence_id = members.sequence_id))
    SQL
    alter_table(:members) do
      drop_foreign_key :step_id
      drop_index %i[sequence_id step_id state], name: :members_by_place
      drop_column :versions
    end
  end
end
