# frozen_string_literal: true

module NimbleLetter
  module Records
    # The database's user that may change the shape of the records. Everything else runs as one that can read and write rows
    # and nothing more, so that an injected statement could not drop a table. The clerk and the start open this one, for as
    # long as they need it; the page never does.
    class Owner
      # @param configuration [Configuration]
      def initialize(configuration)
        @options = configuration.owner_options.merge(max_connections: 1, keep_reference: false)
      end

      # @yieldparam db [Sequel::Database]
      def open
        db = Sequel.connect(**@options)
        yield db
      ensure
        db&.disconnect
      end
    end
  end
end
