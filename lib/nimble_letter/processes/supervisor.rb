# frozen_string_literal: true

module NimbleLetter
  module Processes
    # Runs database, web, worker, practice post office and practice lookups together, and ends them together.
    class Supervisor
      WATCH_SECONDS = 0.5
      # One thinks while the database works for the other.
      CLERKS = 2

      def initialize(configuration, say: ->(words) { puts words })
        @configuration, @say = configuration, say
      end

      # Runs until Ctrl-C or TERM, or until one part ends by itself.
      # @param fresh [Boolean] start the demo anew
      def run(fresh: false)
        Signals.listen
        check_ports
        server = DatabaseServer.new(@configuration)
        @say.call("Starting the database")
        database = server.start
        DemoData.new(@configuration, say: @say).prepare(fresh: fresh)
        children = start_children
        announce
        watch(children)
      ensure
        children&.stop
        server.stop(database) if database
      end

      private

      def check_ports
        Ports.free!(@configuration.port, "PORT", "the web server")
        Ports.free!(@configuration.smtp_port, "SMTP_PORT", "the practice post office")
        Ports.free!(@configuration.lookup_port, "LOOKUP_PORT", "the practice lookups")
      end

      def start_children
        Children.new(@configuration).tap do |children|
          children.start("post-office", port: @configuration.smtp_port)
          children.start("lookups", port: @configuration.lookup_port)
          children.start("web", port: @configuration.port)
          children.start("worker")
          CLERKS.times { |n| children.start("clerk", as: "clerk #{n + 1}") }
        rescue Error
          children.stop
          raise
        end
      end

      def announce
        @say.call("Ready: http://127.0.0.1:#{@configuration.port}")
        sign_in = Demo::Firm.sign_in
        @say.call("Sign in as #{sign_in[:email]} with #{sign_in[:password]} (Ctrl-C ends it)") if sign_in
        Records.db.disconnect
      end

      def watch(children)
        until Signals.wait(WATCH_SECONDS)
          part = children.ended
          if part
            raise Error.new("The #{part} has ended by itself. See #{File.join(@configuration.var, "processes.log")}.", code: :part_ended)
          end
        end
      end
    end
  end
end
