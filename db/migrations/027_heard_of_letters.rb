# frozen_string_literal: true

# What was heard of a letter stands with it, see Core::Results::Heard: results are counted from one index of letters, and not
# from every event there has been.
Sequel.migration do
  up do
    alter_table(:deliveries) do
      add_column :heard, Integer, null: false, default: 0
      add_index %i[sequence_id step_id state heard letter_id person_id], name: :deliveries_counted
    end
    alter_table(:deliveries) { drop_index %i[sequence_id step_id state] }
    run <<~SQL
      UPDATE deliveries JOIN (
        SELECT delivery_id, BIT_OR(1 << (FIELD(kind, 'opened', 'clicked', 'replied', 'bounced', 'unsubscribed', 'converted') - 1)) AS heard
        FROM events
        WHERE kind IN ('opened', 'clicked', 'replied', 'bounced', 'unsubscribed', 'converted')
          AND NOT by_machine AND delivery_id IS NOT NULL
        GROUP BY delivery_id
      ) AS told ON told.delivery_id = deliveries.id
      SET deliveries.heard = told.heard
    SQL
  end

  down do
    alter_table(:deliveries) { add_index %i[sequence_id step_id state] }
    alter_table(:deliveries) do
      drop_index %i[sequence_id step_id state heard letter_id person_id], name: :deliveries_counted
      drop_column :heard
    end
  end
end
