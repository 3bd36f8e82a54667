# frozen_string_literal: true

module NimbleLetter
  module Processes
    # Ctrl-C and TERM, as a question a loop can ask, and the end of whoever started the process as a third way to be told.
    module Signals
      # A process that is told to end and is still busy after so long (a server that hangs, a long page) ends as it is. What
      # it had on the wire is in doubt then, and all else is as if it had never begun.
      GRACE_SECONDS = 4.5
      # How often a process looks whether whoever started it is still there.
      LOOK_SECONDS = 1

      class << self
        # Listens from now on.
        # @param grace_seconds [Numeric, nil] nil for a process that ends others and takes the time they need
        def listen(grace_seconds: GRACE_SECONDS)
          return if @reader

          @reader, @writer = IO.pipe
          %w[INT TERM].each { |name| trap(name) { tell(grace_seconds) } }
        end

        # Ends with the process that started this one: nobody is left behind by one that was killed.
        # @param parent [Integer] its id
        def end_with(parent)
          Thread.new do
            IO.select(nil, nil, nil, LOOK_SECONDS) while Process.ppid == parent
            tell(GRACE_SECONDS)
          end
        end

        # Waits until told to end, or until there is something to read.
        # @param seconds [Float, nil] at most
        # @param other [IO, nil]
        # @return [Boolean] whether to end
        def wait(seconds = nil, other: nil)
          listen
          readable, = IO.select([@reader, other].compact, nil, nil, seconds)
          readable&.include?(@reader) || false
        end

        # @return [Boolean] whether to end, without waiting
        def told? = wait(0)

        private

        def tell(grace_seconds)
          @writer.write_nonblock(".")
          Thread.new { IO.select(nil, nil, nil, grace_seconds) || exit!(1) } if grace_seconds
        end
      end
    end
  end
end
