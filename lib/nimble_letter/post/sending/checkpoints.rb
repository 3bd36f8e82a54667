# frozen_string_literal: true

module NimbleLetter
  module Post
    # Places in a delivery's life where a worker may be killed. In use nothing happens there; the spec that kills workers
    # hangs its own object in.
    module Checkpoints
      NAMES = %i[claimed before_wire on_wire after_wire recorded taken told].freeze

      # Does nothing, at once.
      NONE = Class.new { def reach(_name, _delivery) = nil }.new.freeze
    end
  end
end
