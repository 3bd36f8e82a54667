# frozen_string_literal: true

require "socket"
require "rbconfig"

module NimbleLetter
  module Processes
    # Child processes that run together and end together, by their ids.
    class Children
      READY_SECONDS = 30
      END_SECONDS = 10

      def initialize(configuration, log: File.join(configuration.var, "processes.log"))
        @configuration, @log, @pids = configuration, log, {}
      end

      attr_reader :pids

      # @param part [String] as bin/nimble knows it
      # @param port [Integer, nil] to wait for until it answers
      # @param as [String] what to call it, when there are several of a kind
      # @raise [Error] with the child's last words when it does not come up
      def start(part, port: nil, as: part)
        FileUtils.mkdir_p(@configuration.var)
        pid =
          Process.spawn(
            environment(part),
            RbConfig.ruby,
            File.join(ROOT, "bin", "nimble"),
            part,
            out: [@log, "a"],
            err: [@log, "a"],
            in: File::NULL,
            pgroup: true
          )
        @pids[as] = pid
        wait_for(as, pid, port) if port
        pid
      end

      # Runs a part to its end.
      # @return [Boolean] whether it ended well
      def finish(part)
        pid = start(part)
        @pids.delete(part)
        Process.wait2(pid).last.success?
      end

      # @return [String, nil] the part that has ended by itself
      def ended = @pids.find { |_, pid| Process.wait(pid, Process::WNOHANG) }&.first

      def stop
        @pids.each_value { |pid| signal(:TERM, pid) }
        @pids.each_value { |pid| reap(pid) }
        @pids.clear
      end

      private

      def environment(part)
        own = (part == "clerk") ? ClerkLoop::ENVIRONMENT : {}
        {
          **own,
          "NIMBLE_VAR" => @configuration.var,
          "PORT" => @configuration.port.to_s,
          "DB_PORT" => @configuration.db_port.to_s,
          "SMTP_PORT" => @configuration.smtp_port.to_s,
          "LOOKUP_PORT" => @configuration.lookup_port.to_s,
          "NIMBLE_DATABASE" => @configuration.database,
          "NIMBLE_LEASE_SECONDS" => @configuration.lease_seconds.to_s
        }
      end

      def wait_for(part, pid, port)
        deadline = now + READY_SECONDS
        begin
          TCPSocket.new("127.0.0.1", port).close
        rescue SystemCallError
          ended = Process.wait(pid, Process::WNOHANG)
          @pids.delete(part) if ended
          if ended || now > deadline
            raise Error.new(
              "The #{part} did not start. Its last words, from #{@log}:\n#{File.readlines(@log).last(12).join}",
              code: :no_start
            )
          end

          IO.select(nil, nil, nil, 0.05)
          retry
        end
      end

      def reap(pid)
        deadline = now + END_SECONDS
        until Process.wait(pid, Process::WNOHANG)
          signal(:KILL, pid) if now > deadline
          IO.select(nil, nil, nil, 0.02)
        end
      rescue Errno::ECHILD
        # It was reaped when it ended by itself.
      end

      def signal(name, pid)
        Process.kill(name, pid)
      rescue Errno::ESRCH
        # It has ended already.
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
