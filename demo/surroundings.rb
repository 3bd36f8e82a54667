# frozen_string_literal: true

module NimbleLetter
  module Demo
    # The practice world around a conductor: post office and web server as processes of their own, as in use.
    class Surroundings
      # @param configuration [Configuration]
      def initialize(configuration)
        @configuration = configuration
      end

      # @yield [Practice::Conductor] while everything is open
      def open
        children = Processes::Children.new(@configuration)
        children.start("post-office", port: @configuration.smtp_port)
        children.start("web", port: @configuration.port)
        yield Processes::WorkerLoop.conductor(@configuration, Post::Worker.build(@configuration))
      ensure
        children&.stop
      end
    end
  end
end
