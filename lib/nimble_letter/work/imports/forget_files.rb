# frozen_string_literal: true

module NimbleLetter
  module Work
    # Files that were brought in hold people's data twice. After thirty days the file and its rows go; what they changed in
    # records stays, and can still be taken back.
    module ForgetFiles
      DAYS = 30
      GONE = "This file was not taken in within #{DAYS} days and has been removed."

      # @param folder [String]
      # @return [Integer] files forgotten in this round
      def self.call(folder, moment)
        old =
          Records::Import
            .exclude(file_key: "")
            .exclude(state: Records::Import::WORKING)
            .where(Sequel[:updated_at] < moment.now - DAYS * 86_400)
            .limit(20)
            .all
        old.each { |import| forget(import, folder) }.size
      end

      def self.forget(import, folder)
        path = import.path(folder)
        Records.db.transaction do
          %i[import_pieces import_rows import_slices].each { |table| Records.db[table].where(import_id: import.id).delete }
          changes = (import.state == "done") ? {} : {state: "failed", problem: GONE}
          import.update(file_key: "", **changes)
        end
        File.delete(path) if File.exist?(path)
      end
      private_class_method :forget
    end
  end
end
