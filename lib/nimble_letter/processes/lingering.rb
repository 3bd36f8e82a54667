# frozen_string_literal: true

module NimbleLetter
  module Processes
    # Keeps connections open a little that were answered while somebody was still sending: shut at once, the answer would be lost with
    # them (RFC 9112 9.6). One thread reads what still comes and throws it away, so that nobody else waits for it; more than it can keep
    # are shut at once.
    class Lingering
      SECONDS = 1.0
      BYTES = 4 * 1024 * 1024
      MOST = 64

      Guest = Struct.new(:socket, :until, :left)
      private_constant :Guest

      def initialize
        @waiting = Queue.new
        @guests = []
        @starting = Mutex.new
      end

      # @param socket [BasicSocket] whose answer has been written; it may be closed by its owner
      def take(socket)
        return if @waiting.size + @guests.size >= MOST

        own = socket.dup
        own.close_write
        @waiting << Guest.new(own, now + SECONDS, BYTES)
        @starting.synchronize { @thread = Thread.new { run } unless @thread&.alive? }
      rescue IOError, SystemCallError
        own&.close # it has gone
      end

      private

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def run
        loop do
          @guests << @waiting.pop if @guests.empty?
          @guests << @waiting.pop until @waiting.empty?
          ready, = IO.select(@guests.map(&:socket), nil, nil, SECONDS / 10)
          over = @guests.select { |guest| (ready&.include?(guest.socket) && !listen(guest)) || guest.until < now }
          over.each { |guest| guest.socket.close }
          @guests -= over
        end
      end

      # @return [Boolean] whether more may come
      def listen(guest)
        read = guest.socket.read_nonblock(64 * 1024, exception: false)
        guest.left -= read.bytesize if read.is_a?(String)
        !read.nil? && guest.left.positive?
      rescue IOError, SystemCallError
        false
      end
    end
  end
end
