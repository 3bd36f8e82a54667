# frozen_string_literal: true

module NimbleLetter
  module Records
    # Lets one process at a time do something, on however many machines. The database ends a turn by itself when the process
    # that has it is gone.
    module TakingTurns
      # @param name [String]
      # @return what the block returns, or nil when it is somebody else's turn
      def self.with(name)
        Records.db.synchronize do
          # Names are the server's, so that of the database is part of them; 64 characters at most.
          lock = Sequel.join([Sequel.function(:left, Sequel.function(:database), 40), ".#{name}"])
          next unless Records.db.get(Sequel.function(:get_lock, lock, 0)) == 1

          begin
            yield
          ensure
            Records.db.get(Sequel.function(:release_lock, lock))
          end
        end
      end
    end
  end
end
