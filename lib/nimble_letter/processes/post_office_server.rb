# frozen_string_literal: true

module NimbleLetter
  module Processes
    # The practice post office as a process of its own.
    class PostOfficeServer
      def initialize(configuration, seed: Demo::Story::SEED)
        @configuration, @seed = configuration, seed
      end

      # Serves until it is told to end.
      def run
        Part.begin(@configuration) or return
        Ports.free!(@configuration.smtp_port, "SMTP_PORT", "the practice post office")
        office = Practice::PostOffice.new(port: @configuration.smtp_port, clock: Practice::Clock.new, seed: @seed)
        office.start
        Signals.wait
        office.stop(wait_seconds_before_close: 0, gracefully: false)
      end
    end
  end
end
