# frozen_string_literal: true

require "fileutils"

module NimbleLetter
  module Processes
    # Runs database, web, worker, sender, clerks, practice post office and practice lookups together, starts again what ends by
    # itself, and ends all of them together. What a start before it left behind, because it was killed, is ended or taken over.
    class Supervisor
      WATCH_SECONDS = 0.5
      # How soon a changed file is seen while one works on the code; the page first.
      LOOK_SECONDS = 0.2
      OF_CODE = %w[web worker sender clerk].freeze
      # One thinks while the database works for the other.
      CLERKS = 2
      # So long a part that was started again is spoken of on the page.
      TOLD_SECONDS = 60

      # @param changes [#any?, nil] asked again and again whether to restart the parts, while one works on the code
      def initialize(configuration, say: ->(words) { puts words }, complain: ->(words) { warn words }, changes: nil)
        @configuration, @say, @complain, @changes = configuration, say, complain, changes
        @state = Work::PartsState.new(configuration.parts_state)
        @lately = {}
      end

      # Runs until Ctrl-C or TERM.
      # @param fresh [Boolean] start the demo anew
      # @raise [Error] when it runs already from this folder, a port is somebody else's, or a part does not come up at all
      def run(fresh: false)
        Signals.listen(grace_seconds: nil)
        alone { run_alone(fresh) }
      end

      private

      # Held as long as this process lives, and by none of its children.
      def alone
        FileUtils.mkdir_p(@configuration.var)
        File.open(File.join(@configuration.var, "start.lock"), File::RDWR | File::CREAT, 0o600) do |lock|
          unless lock.flock(File::LOCK_EX | File::LOCK_NB)
            raise Error.new(
              "Nimble Letter runs already from #{@configuration.var}.",
              code: :runs_already,
              hint: "Use it there, end it, or start another with NIMBLE_VAR and ports of its own."
            )
          end
          yield
        end
      end

      def run_alone(fresh)
        Privacy.tighten(@configuration.var)
        left = OwnProcesses.new(@configuration.var).end_left_behind
        @say.call("Ended what an earlier start had left behind: #{left.join(", ").tr("_", " ")}") if left.any?
        check_ports
        @server = DatabaseServer.new(@configuration)
        @say.call("Starting the database")
        @server.start
        DemoData.new(@configuration, say: @say).prepare(fresh: fresh)
        children = start_children
        announce
        watch(children)
      ensure
        children&.stop
        @server&.stop(@server.running_pid)
        @state.clear
      end

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
          children.start("sender")
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
        until Signals.wait(@changes ? LOOK_SECONDS : WATCH_SECONDS)
          renew(children) if @changes&.any?
          look_after_database
          children.look_after.each { |name| lost(name) }
          @lately.delete_if { |name, at| now - at > TOLD_SECONDS && !children.waiting.include?(name) }
          @state.write(@lately.keys)
        end
      end

      def renew(children)
        children.renew(OF_CODE, port: @configuration.port)
        @say.call("Restarted: #{OF_CODE.join(", ")}")
      end

      def look_after_database
        return if @server.running_pid || @server.answering?

        lost("database")
        @server.start
      rescue Error => error
        @complain.call(error.message)
      end

      def lost(name)
        @lately[name] = now
        @complain.call("The #{name} has ended by itself and is started again. See #{File.join(@configuration.var, "processes.log")}.")
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
