# frozen_string_literal: true

module NimbleLetter
  module Post
    # The header of a message, in the order in which its fields are set, encoded and folded by Files::MailHeader.
    class Headers
      # @param name [String]
      # @param address [String] as it goes on the wire
      # @return [String]
      def self.address(name, address) = Files::MailHeader.address(name, address)

      # @param fields [Hash{String=>String}]
      def initialize(fields)
        @fields = fields.dup
      end

      def []=(name, value)
        @fields[name] = value
      end

      # @return [Headers] all but these
      def without(*names) = Headers.new(@fields.except(*names))

      def [](name) = @fields[name]

      # @return [String] with CRLF line ends
      def encoded = @fields.map { |name, value| Files::MailHeader.line(name, value.to_s) }.join
    end
  end
end
