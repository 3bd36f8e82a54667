# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # What the machine says should happen to a member now. Worker and rehearsal carry it out. `due` is a Calendar::Timing::Due:
      # when, and why then.
      module Decisions
        # Nothing before `until_at` (nil: before something happens). for: :time, :reaction, :nod or :outcome.
        Wait = Struct.new(:step, :until_at, :for, :due, keyword_init: true)
        # The step's letter goes out now.
        Send = Struct.new(:step, :due, keyword_init: true)
        # The step's task, change or hand-over is done now.
        Do = Struct.new(:step, :due, keyword_init: true)
        # What was waited for came; the step is behind the member since `at`. because: the happening.
        Pass = Struct.new(:step, :at, :because, keyword_init: true)
        # The member goes on in this lane (nil: no lane fits; on behind the fork). because: the happening, or nil.
        Take = Struct.new(:step, :lane, :at, :because, keyword_init: true)
        # The step is passed by. reason: :not_for_them, :too_late, :no_date, :address_failed, or :had_it when a change of plan brought
        # it before them again.
        Skip = Struct.new(:step, :reason, :at, :due, keyword_init: true)
        # The member leaves because of `reason`: a kind of Happenings, "condition", "end_date", "no_date" or "handed_over".
        Leave = Struct.new(:reason, :at, :because, keyword_init: true)
        # Every step is behind the member.
        Finish = Struct.new(:at, keyword_init: true)

        # @param decision [Send, Do, Pass, Take, Skip, Leave, Finish]
        # @return [Time] when it is due, or took effect
        def self.at(decision) = decision.respond_to?(:at) ? decision.at : decision.due.at
      end
    end
  end
end
