# frozen_string_literal: true

require "etc"
require "fileutils"
require "socket"

module NimbleLetter
  module Processes
    # The project's own MariaDB, on loopback with its own folder, port and socket; never the system's.
    class DatabaseServer
      READY_SECONDS = 60

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
        return prepare_and(nil) if answering?

        Ports.free!(@configuration.db_port, "DB_PORT", "the database")
        pid = Process.spawn(server, "--no-defaults", *options, out: @log, err: @log, pgroup: true)
        wait_for(pid)
        prepare_and(pid)
      end

      # @param pid [Integer] from #start
      def stop(pid)
        Process.kill(:TERM, pid)
        Process.wait(pid)
      rescue Errno::ESRCH, Errno::ECHILD
        # It has ended already, which is what was asked for.
      end

      private

      def options
        [
          "--datadir=#{@folder}",
          "--port=#{@configuration.db_port}",
          "--socket=#{@configuration.socket}",
          "--bind-address=127.0.0.1",
          "--pid-file=#{File.join(@configuration.var, "db.pid")}",
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

      def answering?
        UNIXSocket.open(@configuration.socket).close
        true
      rescue SystemCallError
        false
      end

      def wait_for(pid)
        deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + READY_SECONDS
        until answering?
          ended = Process.wait(pid, Process::WNOHANG)
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
