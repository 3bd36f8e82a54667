# frozen_string_literal: true

module NimbleLetter
  module Records
    # What one act did to one person's record. States: waiting, done, nothing (it was so already), undone, kept (not taken
    # back, since somebody changed it afterwards).
    class ChangeEntry < Sequel::Model(:change_entries)
      extend JsonColumn

      json_column :before, :after

      many_to_one :person
    end
  end
end
