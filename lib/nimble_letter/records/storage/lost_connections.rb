# frozen_string_literal: true

module NimbleLetter
  module Records
    # Tells Sequel which errors of Trilogy mean that the connection is gone. Sequel 5.110 takes them for ordinary errors and
    # puts the dead connection back into its pool, where the next one would find it.
    module LostConnections
      # MariaDB: server shutdown, connection killed, gone away, lost during query.
      CODES = [1053, 1927, 2006, 2013].freeze

      private

      def disconnect_error?(error, opts)
        super || lost?(error)
      end

      def lost?(error)
        error.is_a?(::Trilogy::BaseConnectionError) || error.is_a?(::Trilogy::ConnectionClosed) ||
          error.is_a?(::Trilogy::SynchronizationError) || (error.is_a?(::Trilogy::ProtocolError) && CODES.include?(error.error_code))
      end
    end
  end
end
