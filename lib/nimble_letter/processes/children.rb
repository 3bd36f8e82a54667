# frozen_string_literal: true

require "net/http"
require "socket"
require "rbconfig"

module NimbleLetter
  module Processes
    # Child processes that run together and end together, by their ids. One that ends by itself is started again, after
    # pauses that grow as long as it keeps ending.
    class Children
      READY_SECONDS = 120
      END_SECONDS = 10
      LONGEST_PAUSE_SECONDS = 60
      # One that has run for so long is well again.
      WELL_SECONDS = 60

      # What is known of one child. part: as bin/nimble knows it; ends: how often it has ended by itself without being well
      # in between; again_at: when it is started again, by the same clock as started_at
      Child = Struct.new(:name, :part, :pid, :started_at, :ends, :again_at, keyword_init: true)

      # @param clock [#call] seconds that only grow
      def initialize(
        configuration,
        log: File.join(configuration.var, "processes.log"),
        clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
      )
        @configuration, @log, @clock = configuration, log, clock
        @own = OwnProcesses.new(configuration.var)
        @children = {}
      end

      # @return [Hash{String=>Integer}] ids of those that run, by name
      def pids = @children.values.filter_map { |child| [child.name, child.pid] if child.pid }.to_h

      # @return [Array<String>] names of those that have ended and are to be started again
      def waiting = @children.values.reject(&:pid).map(&:name)

      # @param part [String] as bin/nimble knows it
      # @param port [Integer, nil] to wait for until it answers
      # @param as [String] what to call it, when there are several of a kind
      # @raise [Error] with the child's last words when it does not come up
      def start(part, port: nil, as: part)
        child = @children[as] = Child.new(name: as, part: part, ends: 0)
        spawn(child)
        wait_for(child, port) if port
        child.pid
      end

      # Looks after all of them: notes who has ended, and starts again whoever has waited long enough.
      # @return [Array<String>] names of those that have ended since the last time
      def look_after
        ended = @children.values.select { |child| child.pid && reaped?(child.pid) }
        ended.each { |child| wait_to_start(child) }
        @children.each_value { |child| spawn(child) if child.pid.nil? && @clock.call >= child.again_at }
        ended.map(&:name)
      end

      # Ends all of some parts and starts them again, in the order they are named. The others wait for the web: somebody looks at the page,
      # and all at once they would take each other's time.
      # @param parts [Array<String>] as bin/nimble knows them
      # @param port [Integer] of the web
      def renew(parts, port:)
        chosen = @children.values.select { |child| child.pid && parts.include?(child.part) }.sort_by { |child| parts.index(child.part) }
        chosen.each { |child| signal(:TERM, child.pid) }
        chosen.each do |child|
          reap(child.pid)
          spawn(child)
          # One that does not come is looked after like all others.
          come?(child, port) if child.part == "web"
        end
      end

      # Runs a part to its end.
      # @return [Boolean] whether it ended well
      def finish(part)
        pid = start(part)
        @children.delete(part)
        Process.wait2(pid).last.success?
      end

      def stop
        running = @children.values.select(&:pid)
        running.each { |child| signal(:TERM, child.pid) }
        running.each { |child| reap(child.pid) }
        @children.each_key { |name| @own.forget(name) }
        @children.clear
      end

      private

      def spawn(child)
        FileUtils.mkdir_p(@configuration.var)
        command = [RbConfig.ruby, File.join(ROOT, "bin", "nimble"), child.part]
        child.pid = Process.spawn(environment(child.part), *command, out: [@log, "a"], err: [@log, "a"], in: File::NULL, pgroup: true)
        child.started_at = @clock.call
        @own.note(child.name, child.pid)
      end

      def wait_to_start(child)
        well = @clock.call - child.started_at >= WELL_SECONDS
        child.ends = well ? 1 : child.ends + 1
        child.pid = nil
        child.again_at = @clock.call + [2**(child.ends - 1), LONGEST_PAUSE_SECONDS].min
        @own.forget(child.name)
      end

      def environment(part)
        own = (part == "clerk") ? ClerkLoop::ENVIRONMENT : {}
        {
          **own,
          "NIMBLE_PARENT" => Process.pid.to_s,
          "NIMBLE_VAR" => @configuration.var,
          "PORT" => @configuration.port.to_s,
          "DB_PORT" => @configuration.db_port.to_s,
          "SMTP_PORT" => @configuration.smtp_port.to_s,
          "LOOKUP_PORT" => @configuration.lookup_port.to_s,
          "NIMBLE_DATABASE" => @configuration.database,
          "NIMBLE_LEASE_SECONDS" => @configuration.lease_seconds.to_s,
          "NIMBLE_LOOK_SECONDS" => @configuration.look_seconds.to_s
        }
      end

      def wait_for(child, port)
        no_start(child) unless come?(child, port)
      end

      # @return [Boolean] false once it has ended, or takes too long
      def come?(child, port)
        deadline = @clock.call + READY_SECONDS
        until there?(child.part, port)
          return false if reaped?(child.pid) || @clock.call > deadline

          IO.select(nil, nil, nil, 0.05)
        end
        true
      end

      def there?(part, port)
        answers?(part, port)
      rescue SystemCallError
        false
      end

      # The page answers from the beginning; it is there once it does not say "not just now".
      def answers?(part, port)
        return Net::HTTP.get_response("127.0.0.1", "/api/session", port).code != "503" if part == "web"

        TCPSocket.new("127.0.0.1", port).close
        true
      end

      def no_start(child)
        @children.delete(child.name) if reaped?(child.pid)
        words = File.readlines(@log).last(12).join
        raise Error.new("The #{child.name} did not start. Its last words, from #{@log}:\n#{words}", code: :no_start)
      end

      def reaped?(pid)
        !Process.wait(pid, Process::WNOHANG).nil?
      rescue Errno::ECHILD
        true
      end

      def reap(pid)
        # By the machine's clock, whatever the one given says: a real process is waited for. One that is told to end while it begins may
        # not hear it.
        now = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
        deadline = now.call + END_SECONDS
        until reaped?(pid)
          signal(:KILL, pid) if now.call > deadline
          IO.select(nil, nil, nil, 0.02)
        end
      end

      def signal(name, pid)
        Process.kill(name, pid)
      rescue Errno::ESRCH
        # It has ended already.
      end
    end
  end
end
