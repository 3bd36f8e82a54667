# frozen_string_literal: true

# Whether any record with this address said no; kept by Work::NoAtAddress.
Sequel.migration do
  up do
    alter_table(:people) { add_column :no_at_address, TrueClass, null: false, default: false }
    run <<~SQL
      UPDATE people
        JOIN (SELECT DISTINCT email_fold FROM people
               WHERE email_fold IS NOT NULL AND (do_not_mail OR address_failed OR consent = 'no')) AS nos
          ON nos.email_fold = people.email_fold
         SET people.no_at_address = TRUE
    SQL
  end

  down { drop_column :people, :no_at_address }
end
