# frozen_string_literal: true

# Wrong codes are counted for the mailbox, as all tries are (allowances), and not for each code.
Sequel.migration do
  up { alter_table(:mailboxes) { drop_column :code_tries } }

  down { alter_table(:mailboxes) { add_column :code_tries, Integer, null: false, default: 0 } }
end
