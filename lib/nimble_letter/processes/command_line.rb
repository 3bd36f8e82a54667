# frozen_string_literal: true

module NimbleLetter
  module Processes
    # The parts that can be run alone, by name.
    module CommandLine
      PARTS = %w[web worker sender clerk post-office lookups demo start dev console trace contract version].freeze
      # Their lines go to var/processes.log.
      IN_PARTS = %w[web worker sender clerk post-office lookups].freeze
      # It writes into the project itself, where others may read.
      OPEN = "contract"

      # @param words [Array<String>] the part's name, then what it takes
      # @raise [Invalid] for an unknown part
      def self.run(words)
        $stdout.sync = true
        Privacy.begin unless words.first == OPEN
        configuration = Configuration.new
        Log.begin(words.first) if IN_PARTS.include?(words.first)
        case words.first
        when "web" then WebServer.new(configuration).run
        when "worker" then WorkerLoop.new(configuration).run
        when "sender" then SenderLoop.new(configuration).run
        when "clerk" then ClerkLoop.new(configuration).run
        when "post-office" then PostOfficeServer.new(configuration).run
        when "lookups" then LookupServer.new(configuration).run
        when "demo" then build_demo(configuration)
        when "start" then Supervisor.new(configuration).run(fresh: words.include?("--fresh"))
        when "dev" then Supervisor.new(configuration, changes: ChangedFiles.new(%w[lib demo starters openapi.yaml])).run
        when "contract" then Web::Contract.join
        when "console" then with_records(configuration) { Console.new.run }
        when "trace" then with_records(configuration) { Trace.new.run(words.drop(1)) }
        when "version" then puts VERSION
        else raise Invalid.new("Run one of: #{PARTS.join(", ")}.", code: :unknown_part)
        end
      end

      # Builds the demo anew on a database that runs already or is started for it.
      def self.build_demo(configuration)
        server = DatabaseServer.new(configuration)
        pid = server.start
        DemoData.new(configuration, say: ->(line) { puts line }).prepare(fresh: true)
      ensure
        server.stop(pid) if pid
      end
      private_class_method :build_demo

      # For looking into a database that runs.
      def self.with_records(configuration)
        unless DemoData.new(configuration).there?
          raise Error.new("The demo is still being built.", code: :half_built, hint: "bin/start and bin/dev say Ready once it is there.")
        end
        yield
      rescue *Records::Patience::AWAY
        raise Error.new("The database is not there.", code: :database_away, hint: "Start it with bin/start or bin/dev.")
      end
      private_class_method :with_records
    end
  end
end
