# frozen_string_literal: true

module NimbleLetter
  module Processes
    # The database's users and what each may do. The page, the worker and the clerk run as one that reads and writes rows; the
    # log of what matters to safety is a place to which it only adds. Another one makes tables and columns, see Records::Owner.
    class DatabaseUsers
      HOSTS = %w[127.0.0.1 localhost].freeze
      ROWS = "SELECT, INSERT, UPDATE, DELETE, CREATE TEMPORARY TABLES"
      # Every database whose name begins so, that of the specs too.
      RECORDS = "`nimble\\_letter%`.*"
      LOGS = "`log\\_of\\_nimble\\_letter%`.*"

      def initialize(configuration)
        @configuration = configuration
      end

      # @return [Array<String>] SQL that can be said again at each start
      def statements
        users = HOSTS.flat_map { |host| running("nimble@'#{host}'") + owner("nimble_owner@'#{host}'") }
        database = "`#{@configuration.database.gsub("`", "``")}`"
        users + ["CREATE DATABASE IF NOT EXISTS #{database} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci"]
      end

      private

      # What a start before had granted is taken away first.
      def running(user)
        made(user, @configuration.db_password) + [
          "REVOKE ALL PRIVILEGES, GRANT OPTION FROM #{user}",
          "GRANT #{ROWS} ON #{RECORDS} TO #{user}",
          "GRANT SELECT, INSERT ON #{LOGS} TO #{user}"
        ]
      end

      def owner(user) =
        made(user, @configuration.db_owner_password) + [RECORDS, LOGS].map { |where| "GRANT ALL ON #{where} TO #{user}" }

      # Both passwords are letters and digits made here.
      def made(user, password) = ["CREATE USER IF NOT EXISTS #{user} IDENTIFIED BY '#{password}'"]
    end
  end
end
