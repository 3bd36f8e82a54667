# frozen_string_literal: true

require "mail"

module NimbleLetter
  module Post
    # The header of a message, in the order in which its fields are set. Short plain lines are written here; whatever has to be encoded or
    # folded (RFC 2047, RFC 5322 2.2.3) is left to the mail library, which takes ten times as long.
    class Headers
      SHORT = 76
      PLAIN = /\A[\x21-\x7e](?:[\x20-\x7e]*[\x21-\x7e])?\z/
      # A name that needs no quotes and no encoding (RFC 5322 3.2.3, atoms).
      ATOMS = /\A[A-Za-z0-9'-]+(?: [A-Za-z0-9'-]+)*\z/

      # @param name [String]
      # @param address [String] as it goes on the wire
      # @return [String]
      def self.address(name, address)
        name = name.to_s.gsub(/[[:cntrl:]]+/, " ")
        return "#{name} <#{address}>" if name.match?(ATOMS)

        Mail::Address.new.tap { |made| made.address, made.display_name = address, name }.format
      end

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
      def encoded = @fields.map { |name, value| line(name, value.to_s) }.join

      private

      def line(name, value)
        return "#{name}: #{value}\r\n" if name.length + value.length < SHORT && value.match?(PLAIN)

        Mail::Field.new(name, value, "UTF-8").encoded
      end
    end
  end
end
