# frozen_string_literal: true

require "sequel"
require "json"

module NimbleLetter
  # Records on MariaDB. Connect before any model is named.
  module Records
    MIGRATIONS = File.join(ROOT, "db", "migrations")

    class << self
      attr_reader :db

      # @param configuration [Configuration]
      # @return [Sequel::Database]
      # @raise [Sequel::DatabaseConnectionError] while there is no server; see Processes::Part
      def connect(configuration)
        Sequel.default_timezone = :utc
        @db = Sequel.connect(**configuration.database_options)
        # A server that went away and came back must not be met with a dead connection from the pool.
        @db.extend(LostConnections)
        @db.extend(Commits)
        @db.extension(:connection_validator, :date_arithmetic)
        @db.extend_datasets(AsksForOne)
        @db.pool.connection_validation_timeout = 5
        Sequel::Model.db = @db
        Sequel::Model.raise_on_save_failure = true
        @db
      end

      # Throws the whole database away, its log too, and leaves an empty one.
      # @param configuration [Configuration]
      def begin_anew(configuration)
        Owner.new(configuration).open do |owner|
          name = ->(database) { owner.literal(Sequel.identifier(database)) }
          owner.run("DROP DATABASE IF EXISTS #{name.call(SafetyLog.database(configuration.database))}")
          owner.run("DROP DATABASE IF EXISTS #{name.call(configuration.database)}")
          owner.run("CREATE DATABASE #{name.call(configuration.database)} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci")
        end
        db.disconnect
      end

      # @param configuration [Configuration]
      def migrate(configuration)
        Sequel.extension :migration
        Owner.new(configuration).open do |owner|
          Sequel::Migrator.run(owner, MIGRATIONS)
          # A server that ended soon after many rows came still takes their tables for empty, and goes through all of them for each row.
          owner.fetch("ANALYZE TABLE #{owner.tables.map { |table| owner.literal(table) }.join(", ")}").all
        end
      end

      # @return [Time] UTC by the database's own clock; leases need one that every worker shares
      def server_time = db.get(Sequel.function(:UTC_TIMESTAMP, 6))
    end
  end
end
