# frozen_string_literal: true

module NimbleLetter
  module Processes
    # What a part does before it does its own work: it listens for the end, and waits until the database is there.
    module Part
      AWAY_SECONDS = 1

      # @param configuration [Configuration]
      # @return [Boolean] false when it was told to end before the database came
      def self.begin(configuration)
        Files::XmlLibrary.load!
        Signals.listen
        Signals.end_with(configuration.parent) if configuration.parent
        until ready?(configuration)
          return false if Signals.wait(AWAY_SECONDS)
        end
        true
      end

      # Models read their tables when they are first named; here, where that can be tried again.
      def self.ready?(configuration)
        Records.connect(configuration)
        NimbleLetter.loader.eager_load_namespace(Records)
        true
      rescue *Records::Patience::AWAY => error
        Log.warn("waiting for the database", error)
        false
      end
      private_class_method :ready?
    end
  end
end
