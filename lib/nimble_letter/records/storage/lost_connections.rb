# frozen_string_literal: true

module NimbleLetter
  module Records
    # Tells Sequel which errors of Trilogy mean that the connection is gone. Sequel 5.110 takes them for ordinary errors and
    # puts the dead connection back into its pool, where the next one would find it.
    module LostConnections
      # MariaDB: server shutdown, connection killed, gone away, lost during query.
      CODES = [1053, 1927, 2006, 2013].freeze
      # The library counts a wait for a lock that took too long among its connection errors; that connection is well.
      WELL = [1205, 3572].freeze

      private

      def disconnect_error?(error, opts)
        super || lost?(error)
      end

      # Trilogy marks whatever goes wrong on the wire, system calls included, as a ConnectionError. After two answers got
      # mixed up nothing that comes over the connection can be trusted.
      def lost?(error)
        return false unless error.is_a?(::Trilogy::Error)
        return false if WELL.include?(error.error_code)

        error.is_a?(::Trilogy::ConnectionError) || error.is_a?(::Trilogy::SynchronizationError) || CODES.include?(error.error_code)
      end
    end
  end
end
