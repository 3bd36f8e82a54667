# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # What the machine says should happen to a member now. Worker and rehearsal carry it out.
      module Decisions
        # The step's letter goes out now; `due` is when it was due.
        Send = Struct.new(:step, :due)
        # Nothing before `due`; then the step's letter.
        WaitUntil = Struct.new(:due, :step)
        # The member leaves because of `reason`, an event kind; what lies ahead is not sent.
        Leave = Struct.new(:reason, :at)
        # Every step is behind the member.
        Finish = Struct.new(:at)
      end
    end
  end
end
