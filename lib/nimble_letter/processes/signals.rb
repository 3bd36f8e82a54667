# frozen_string_literal: true

module NimbleLetter
  module Processes
    # Ctrl-C and TERM, as a question a loop can ask.
    module Signals
      class << self
        # Listens from now on.
        def listen
          return if @reader

          @reader, @writer = IO.pipe
          %w[INT TERM].each { |name| trap(name) { @writer.write_nonblock(".") } }
        end

        # Waits until told to end.
        # @param seconds [Float, nil] at most
        # @return [Boolean] whether to end
        def wait(seconds = nil)
          listen
          !@reader.wait_readable(seconds).nil?
        end
      end
    end
  end
end
