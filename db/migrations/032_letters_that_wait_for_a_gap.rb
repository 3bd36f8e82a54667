# frozen_string_literal: true

# Who starts a sequence may leave letters with a gap waiting while the others go. What a letter lacks stands with it, so that it can be
# tried again as soon as somebody has filled it in; how many were left is read back at a start at a time, as its letters are.
Sequel.migration do
  change do
    alter_table(:set_asides) { add_column :lacks, String, size: 500 } # keys of fields
    alter_table(:sequences) { add_column :start_gaps, Integer }
  end
end
