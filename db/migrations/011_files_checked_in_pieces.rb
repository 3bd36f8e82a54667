# frozen_string_literal: true

# A file is laid out in pieces of rows, which several clerks check beside each other; gone once all are checked.
Sequel.migration do
  up do
    create_table(:import_pieces) do
      foreign_key :import_id, :imports, type: :bigint, on_delete: :cascade
      Integer :first, null: false
      Integer :rows, null: false
      primary_key %i[import_id first]
      column :cells, :mediumtext, null: false # see Work::PieceOfFile
      column :found, :mediumtext # counts, addresses, names no colleague has; once it is checked
    end
    alter_table(:imports) { add_column :laid_out, TrueClass, null: false, default: false }
    # Those that are being checked begin anew.
    from(:import_rows).where(import_id: from(:imports).where(state: "checking").select(:id)).delete
  end

  down do
    alter_table(:imports) { drop_column :laid_out }
    drop_table(:import_pieces)
  end
end
