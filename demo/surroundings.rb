# frozen_string_literal: true

require "puma"
require "rack"

module NimbleLetter
  module Demo
    # The practice world in one process: post office, public pages and worker, for building the demo and for specs.
    class Surroundings
      # @param configuration [Configuration]
      # @param clock [Practice::Clock]
      def initialize(configuration, clock:, seed:)
        @configuration, @clock, @seed = configuration, clock, seed
      end

      # @yield [Practice::Conductor] while everything is open
      def open
        office = Practice::PostOffice.new(port: @configuration.smtp_port, clock: @clock, seed: @seed)
        office.start
        pages = Puma::Server.new(Web::PublicSite.app(@configuration, clock: @clock), nil, min_threads: 1, max_threads: 2, log_writer: Puma::LogWriter.null)
        pages.add_tcp_listener("127.0.0.1", @configuration.port)
        pages.run
        yield conductor
      ensure
        pages&.stop(true)
        office&.stop(wait_seconds_before_close: 0, gracefully: false)
      end

      def conductor
        worker = Post::Worker.build(@configuration)
        reactions = Practice::Reactions.new(maildir: Post::Maildir.new(@configuration.maildir))
        Practice::Conductor.new(clock: @clock, worker: worker, reactions: reactions)
      end
    end
  end
end
