# frozen_string_literal: true

module NimbleLetter
  module Web
    # The body of a request whose size nobody said, for a server that does not count it: reading more than is allowed ends it.
    class CountedBody
      # More came than is taken.
      class TooMuch < StandardError
      end

      # @param body [#read]
      # @param most [Integer] bytes
      def initialize(body, most)
        @body, @most, @bytes = body, most, 0
      end

      # At most one byte more than is allowed is ever held.
      def read(length = nil, buffer = nil)
        piece = @body.read([length, @most - @bytes + 1].compact.min)
        counted(piece)
        piece = "".b if piece.nil? && length.nil?
        buffer ? buffer.replace(piece.to_s) && piece && buffer : piece
      end

      def gets = counted(@body.gets)

      def each
        return enum_for unless block_given?

        while (line = gets)
          yield line
        end
      end

      def rewind
        @bytes = 0
        @body.rewind
      end

      # Whoever would send it again asks first.
      def respond_to?(name, all = false) = (name == :rewind) ? @body.respond_to?(:rewind) : super

      def close = @body.close

      private

      def counted(piece)
        @bytes += piece.to_s.bytesize
        raise TooMuch if @bytes > @most

        piece
      end
    end
  end
end
