# frozen_string_literal: true

# Rows that stand for addresses and domains: to lock one is to have one's turn at an address (Records::AddressTurns).
Sequel.migration do
  up do
    create_table(:address_turns) { column :turn, "SMALLINT UNSIGNED", primary_key: true }
    self[:address_turns].import([:turn], [*0...1024].zip)
  end

  down { drop_table :address_turns }
end
