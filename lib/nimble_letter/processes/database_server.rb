# frozen_string_literal: true

require "etc"
require "fileutils"
require "socket"

module NimbleLetter
  module Processes
    # The project's own MariaDB, on loopback with its own folder, port and socket; never the system's.
    class DatabaseServer
      READY_SECONDS = 120

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
        pid = Process.spawn(server, "--no-defaults", *options, out: @log, err: @log, pgroup: true)
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
          "--max-allowed-packet=64M",
          "--innodb-lock-wait-timeout=15",
          "--default-time-zone=+00:00",
          *user_option
        ]
      end

      # A folder of its own: a server that starts clears away the temporary tables it finds in the one it shares with others.
      def temporary = File.join(@configuration.var, "db-tmp").tap { |folder| FileUtils.mkdir_p(folder) }

      # The server refuses to run as root unless told so.
      def user_option = Process.uid.zero? ? ["--user=root"] : []

      def server = ["/usr/sbin/mariadbd", "/usr/bin/mariadbd"].find { |path| File.executable?(path) } || "mariadbd"

      def install
        FileUtils.mkdir_p(@folder)
        # Only this system user gets in as the server's root, and only over the socket.
        run("mariadb-install-db", "--no-defaults", "--datadir=#{@folder}", "--skip-test-db", "--auth-root-authentication-method=socket",
          "--auth-root-socket-user=#{Etc.getpwuid.name}", *user_option)
      end

      def prepare_and(result)
        password = @configuration.db_password
        sql = ["127.0.0.1", "localhost"].map do |host|
          "CREATE USER IF NOT EXISTS nimble@'#{host}' IDENTIFIED BY '#{password}'; GRANT ALL ON `nimble\\_letter%`.* TO nimble@'#{host}';"
        end
        run("mariadb", "--no-defaults", "--socket=#{@configuration.socket}", "-u", Etc.getpwuid.name, "-e",
          "#{sql.join} CREATE DATABASE IF NOT EXISTS `#{@configuration.database}` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci")
        result
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
        return if system(*command, out: @log, err: @log)

        raise Error.new(
          "#{command.first} failed. Its last words, from #{@log}:\n#{File.readlines(@log).last(8).join}",
          code: :database_away
        )
      end
    end
  end
end
