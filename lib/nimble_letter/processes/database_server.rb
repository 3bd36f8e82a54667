# frozen_string_literal: true

require "English"
require "etc"
require "fileutils"
require "socket"

module NimbleLetter
  module Processes
    # The project's own MariaDB, on loopback with its own folder, port and socket; never the system's.
    class DatabaseServer
      READY_SECONDS = 120
      # What the server makes is for its own user alone; it goes by these and not by the process's own mask.
      MODES = {"UMASK" => "0600", "UMASK_DIR" => "0700"}.freeze

      def initialize(configuration)
        @configuration = configuration
        @folder = File.join(configuration.var, "db")
        @log = File.join(configuration.var, "db.log")
      end

      # Starts it unless it already answers, and makes the database and its user.
      # @return [Integer, nil] process id when this call started it
      # @raise [Error] when the port belongs to somebody else or the server does not come up
      def start
        install unless File.directory?(File.join(@folder, "mysql"))
        wait_for(nil) if running_pid && !answering? # it may still be coming up
        return prepare_and(nil) if answering?

        Ports.free!(@configuration.db_port, "DB_PORT", "the database")
        pid = Process.spawn(MODES, server, "--no-defaults", *options, out: @log, err: @log, pgroup: true)
        wait_for(pid)
        prepare_and(pid)
      end

      # @return [Integer, nil] of the server that runs from this folder, whoever started it
      def running_pid
        pid = Integer(File.read(pid_file), exception: false)
        pid if pid && File.read("/proc/#{pid}/cmdline").include?(@folder) && !ended?(pid)
      rescue Errno::ENOENT, Errno::ESRCH
        nil
      end

      # @return [Boolean]
      def answering?
        UNIXSocket.open(@configuration.socket).close
        true
      rescue SystemCallError
        false
      end

      # @param pid [Integer, nil] from #start or #running_pid
      def stop(pid)
        return unless pid

        Process.kill(:TERM, pid)
        IO.select(nil, nil, nil, 0.05) until ended?(pid)
      rescue Errno::ESRCH
        # It has ended already, which is what was asked for.
      end

      private

      def options
        [
          "--datadir=#{@folder}",
          "--tmpdir=#{temporary}",
          "--port=#{@configuration.db_port}",
          "--socket=#{@configuration.socket}",
          "--bind-address=127.0.0.1",
          "--pid-file=#{pid_file}",
          "--character-set-server=utf8mb4",
          "--collation-server=utf8mb4_unicode_ci",
          "--transaction-isolation=READ-COMMITTED",
          "--innodb-buffer-pool-size=#{ENV.fetch("NIMBLE_DB_MEMORY", "512M")}",
          "--skip-log-bin",
          # No statement reads or writes a file.
          "--local-infile=0",
          "--secure-file-priv=#{nothing}",
          "--max-allowed-packet=64M",
          "--innodb-lock-wait-timeout=15",
          "--default-time-zone=+00:00",
          *user_option
        ]
      end

      # A folder of its own: a server that starts clears away the temporary tables it finds in the one it shares with others.
      def temporary = File.join(@configuration.var, "db-tmp").tap { |folder| FileUtils.mkdir_p(folder) }

      # An empty folder: the only one a statement might have read from.
      def nothing = File.join(@configuration.var, "db-files").tap { |folder| FileUtils.mkdir_p(folder) }

      # The server refuses to run as root unless told so.
      def user_option = Process.uid.zero? ? ["--user=root"] : []

      def server = ["/usr/sbin/mariadbd", "/usr/bin/mariadbd"].find { |path| File.executable?(path) } || "mariadbd"

      def install
        FileUtils.mkdir_p(@folder)
        # Only this system user gets in as the server's root, and only over the socket.
        run(
          "mariadb-install-db",
          "--no-defaults",
          "--datadir=#{@folder}",
          "--skip-test-db",
          "--auth-root-authentication-method=socket",
          "--auth-root-socket-user=#{Etc.getpwuid.name}",
          *user_option
        )
      end

      # Over the socket and not on a command line, which every process of the machine can read.
      def prepare_and(result)
        tell(DatabaseUsers.new(@configuration).statements)
        result
      end

      def tell(statements)
        IO.popen(
          ["mariadb", "--no-defaults", "--socket=#{@configuration.socket}", "-u", Etc.getpwuid.name],
          "w",
          out: @log,
          err: @log
        ) { |client| client.write(statements.join(";\n")) }
        failed("mariadb") unless $CHILD_STATUS.success?
      end

      def pid_file = File.join(@configuration.var, "db.pid")

      # A server that another process started is nobody's child here.
      def ended?(pid)
        Process.wait(pid, Process::WNOHANG) ? true : false
      rescue Errno::ECHILD
        !File.exist?("/proc/#{pid}")
      end

      # @param pid [Integer, nil] nil for one that somebody else started
      def wait_for(pid)
        deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + READY_SECONDS
        until answering?
          ended = pid ? ended?(pid) : running_pid.nil?
          return if ended && pid.nil?

          if ended || Process.clock_gettime(Process::CLOCK_MONOTONIC) > deadline
            raise Error.new(
              "The database did not start. Its last words, from #{@log}:\n#{File.readlines(@log).last(8).join}",
              code: :database_away
            )
          end
          IO.select(nil, nil, nil, 0.05)
        end
      end

      def run(*command)
        system(MODES, *command, out: @log, err: @log) || failed(command.first)
      end

      def failed(what) =
        raise(Error.new("#{what} failed. Its last words, from #{@log}:\n#{File.readlines(@log).last(8).join}", code: :database_away))
    end
  end
end
