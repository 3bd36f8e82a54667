# frozen_string_literal: true

# The real MariaDB for every example outside of spec/core. Each example runs in a transaction that is taken back, unless it
# is marked `:processes`: then other processes must see its rows, and all tables are emptied afterwards.
module TestDatabase
  class << self
    def configuration
      @configuration ||=
        Configuration.new(
          ENV.to_h.merge(
            "NIMBLE_VAR" => ENV.fetch("NIMBLE_TEST_VAR", "var-test"),
            "NIMBLE_DATABASE" => "nimble_letter_test",
            "PORT" => Processes::Ports.any.to_s,
            "SMTP_PORT" => Processes::Ports.any.to_s,
            "LOOKUP_PORT" => Processes::Ports.any.to_s,
            "DB_PORT" => ENV.fetch("DB_PORT", Processes::Ports.any).to_s
          )
        )
    end

    # @param of [Configuration] whose database it makes, in the one server
    def serve(of = configuration)
      server = Processes::DatabaseServer.new(of)
      end_left_behind(server) unless @serving || ENV["DB_PORT"]
      @serving = true
      pid = server.start
      at_exit { server.stop(pid) } if pid && !ENV["NIMBLE_KEEP_DATABASE"]
    end

    # One that a run left behind which was killed listens at a port of its own.
    def end_left_behind(server) = server.stop(server.running_pid)

    def start
      return if @started

      @started = true
      serve
      Records.connect(configuration)
      Records.begin_anew(configuration)
      Records.migrate(configuration)
    end

    def owner = Records::Owner.new(configuration)

    # Rows that were written for other processes to see stay until the next example, and no longer.
    def tidy
      empty if @written
      @written = false
    end

    def written = @written = true

    def empty
      owner.open do |db|
        db.run("SET FOREIGN_KEY_CHECKS=0")
        log = Sequel.qualify(Records::SafetyLog.database(configuration.database), :lines)
        # The first set of statuses comes with the tables.
        (db.tables - %i[schema_info status_sets address_turns] + [log]).each { |table| db[table].truncate unless db[table].empty? }
      end
      FileUtils.rm_rf(configuration.maildir)
    end
  end
end

RSpec.configure do |config|
  config.define_derived_metadata(file_path: %r{/spec/(records|work|post|web|practice|processes)/}) do |metadata|
    metadata[:database] = true
  end
  config.before(:context, :database) { TestDatabase.start }
  config.around(:each, :database) do |example|
    TestDatabase.tidy
    if example.metadata[:processes]
      TestDatabase.written
      example.run
    else
      Records.db.transaction(rollback: :always, auto_savepoint: true) { example.run }
    end
  end
end
