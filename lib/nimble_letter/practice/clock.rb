# frozen_string_literal: true

module NimbleLetter
  module Practice
    # The practice clock: one row that every process reads. It stands still until somebody moves it.
    class Clock
      ROW = 1

      # @return [Time] UTC
      def now = table.where(id: ROW).get(:now) || raise(Error.new("The practice clock has not been set.", code: :no_clock))

      # @return [Time, nil] where it is being moved to
      def target = table.where(id: ROW).get(:target)

      # @param time [Time]
      def set(time)
        table.where(id: ROW).update(now: time).zero? && table.insert(id: ROW, now: time)
        time
      end

      # Asks the worker to play everything that happens up to then. A clock never goes back.
      # @raise [Invalid]
      def advance_to(time)
        raise Invalid.new("The practice clock only goes forward.", at: "to") if time < now

        table.where(id: ROW).update(target: time)
      end

      def arrive = table.where(id: ROW).update(target: nil)

      private

      def table = Records.db[:practice_clock]
    end
  end
end
