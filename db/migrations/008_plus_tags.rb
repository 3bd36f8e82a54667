# frozen_string_literal: true

# Addresses without what follows a plus sign, for firms to whom ann+news@ and ann@ are one (Records::SameAddress).
Sequel.migration do
  up do
    trunk = lambda do |column|
      "CASE WHEN LOCATE('@', #{column}) > 0 AND LOCATE('+', SUBSTRING_INDEX(#{column}, '@', 1)) > 1 " \
        "THEN CONCAT(SUBSTRING_INDEX(#{column}, '+', 1), '@', SUBSTRING(#{column}, LOCATE('@', #{column}) + 1)) ELSE #{column} END"
    end
    alter_table(:people) { add_column :email_trunk, String, size: 190, collate: "utf8mb4_nopad_bin" }
    run "UPDATE people SET email_trunk = #{trunk.call("email_fold")}"
    alter_table(:people) { add_index %i[email_trunk deleted_at id] }
    alter_table(:blocked_addresses) { add_column :value_trunk, String, size: 190, collate: "utf8mb4_nopad_bin" }
    run "UPDATE blocked_addresses SET value_trunk = #{trunk.call("value_fold")}"
    alter_table(:blocked_addresses) { add_index :value_trunk }
  end

  down do
    alter_table(:people) { drop_column :email_trunk }
    alter_table(:blocked_addresses) { drop_column :value_trunk }
  end
end
