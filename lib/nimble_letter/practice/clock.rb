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
      # @return [Boolean] whether it stands at that time and is not being moved; it stays so until the transaction ends
      def stands_at?(time) = table.where(id: ROW, now: time, target: nil).lock_style("LOCK IN SHARE MODE").any?

      # Sets it anew, for a world that begins.
      # @param time [Time]
      def set(time)
        table.where(id: ROW).update(now: time).zero? && table.insert(id: ROW, now: time)
        time
      end

      # Moves it forward. Several workers may move it at once: whoever is behind moves nothing.
      # @param time [Time]
      # @return [Time] where it stands now
      def move_to(time)
        table.where(id: ROW).update(now: Sequel.function(:greatest, :now, time))
        now
      end

      # Asks the worker to play everything that happens up to then. A clock never goes back.
      # @raise [Invalid]
      def advance_to(time)
        raise Invalid.new("The practice clock only goes forward.", at: "to") if time < now

        table.where(id: ROW).update(target: time)
      end

      # It is where it was being moved to, unless somebody has asked for more meanwhile.
      # @param time [Time] the target that was reached
      def arrive(time) = table.where(id: ROW, target: time).update(target: nil)

      private

      def table = Records.db[:practice_clock]
    end
  end
end
