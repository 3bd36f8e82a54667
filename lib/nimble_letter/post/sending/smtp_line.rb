# frozen_string_literal: true

require "net/smtp"

module NimbleLetter
  module Post
    # One connection to a mail server, from greeting to end. Connecting and greeting are the library's; what follows is said
    # and read here, because the library's own `data` answers "200 dummy reply code" after any error on the same connection,
    # and does not tell whether the end of the text reached the wire.
    class SmtpLine < Net::SMTP
      # A server that sends more than this without coming to the end of an answer says nothing.
      MOST_BYTES = 64 * 1024
      DOT = ".\r\n"

      # @return [Boolean] whether the final dot of the last text is on the wire: from then on the other side may have it
      def handed_over? = @handed_over ? true : false

      # @return [Boolean] whether the server has said or done something that nobody asked for: nothing it says next could be
      #   taken for an answer
      def out_of_turn? = io.to_io.wait_readable(0) ? true : false

      # @param command [String]
      # @param stage [Symbol] see Core::Sending::Answer
      # @param seconds [Numeric] for the whole answer, however it trickles in
      # @return [Core::Sending::Answer]
      # @raise [ArgumentError] for a command of several lines
      # @raise [SystemCallError, IOError, Net::ReadTimeout, Net::WriteTimeout] when the line breaks
      def ask(command, stage, seconds)
        validate_line(command)
        @handed_over = false
        put("#{command}\r\n", seconds)
        answer(stage, seconds)
      end

      # Hands the text over after a 354. An answer to `:text` means that the end of it never reached the wire.
      # @param raw [String] the message
      # @param seconds [Numeric] for the text
      # @param end_seconds [Numeric] for the answer to the final dot
      # @return [Core::Sending::Answer] to the text (`:text`) or to its end (`:end`)
      def hand_over(raw, seconds, end_seconds)
        @handed_over = false
        early = write_text(raw, seconds)
        return early if early

        put(DOT, seconds)
        @handed_over = true
        answer(:end, end_seconds)
      end

      # Ends the connection from another thread: whoever waits on it is told that the line broke.
      def break_off
        @socket&.io&.to_io&.shutdown
      rescue SystemCallError, IOError
        # It has ended already.
      end

      private

      # Small packets: without this each message waits about 40 ms for an acknowledgement (Nagle and delayed ACK).
      def tcp_socket(address, port)
        super.tap { |socket| socket.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, 1) }
      end

      # @return [Core::Sending::Answer, nil] what the server said before it had heard the end
      def write_text(raw, seconds)
        put(transparent(raw), seconds)
        io.to_io.wait_readable(0) ? answer(:text, seconds) : nil
      rescue SystemCallError
        # It hung up in the middle, perhaps with a word that is still to be read.
        io.to_io.wait_readable(0) ? answer(:text, 1) : raise
      end

      # RFC 5321 4.5.2: a line that begins with a dot gets another one; 2.3.8: lines end in CRLF, and nothing else is one.
      def transparent(raw)
        text = raw.match?(/(?<!\r)\n|\r(?!\n)/) ? raw.gsub(/\r\n|\r|\n/, "\r\n") : raw
        text = "#{text}\r\n" unless text.end_with?("\r\n")
        text.gsub(/^\./, "..")
      end

      def answer(stage, seconds)
        deadline = now + seconds
        heard = +""
        heard << take(deadline) until complete?(heard) || heard.bytesize > MOST_BYTES
        Core::Sending::Answer.new(readable(heard), stage: stage)
      end

      def complete?(heard) = heard.end_with?("\n") && !heard.lines.last.match?(/\A\d{3}-/)

      # RFC 5321 4.2.1: every line of an answer has the same code. One that has not is none.
      def readable(heard)
        text = heard.dup.force_encoding(Encoding::UTF_8).scrub("?")
        codes = text.lines.map { |line| line[0, 3] }.uniq
        (codes.size == 1) ? text.strip : "(no answer) #{text.strip}"
      end

      def take(deadline)
        chunk = io.read_nonblock(4096, exception: false)
        case chunk
        when String then chunk
        when nil then raise EOFError, "the other side hung up"
        else wait(chunk, deadline, Net::ReadTimeout) && ""
        end
      end

      def put(text, seconds)
        deadline = now + seconds
        rest = text.b
        until rest.empty?
          written = io.write_nonblock(rest, exception: false)
          written.is_a?(Symbol) ? wait(written, deadline, Net::WriteTimeout) : rest = rest.byteslice(written..)
        end
      end

      def wait(direction, deadline, error)
        left = deadline - now
        ready = left.positive? && ((direction == :wait_readable) ? io.to_io.wait_readable(left) : io.to_io.wait_writable(left))
        ready || raise(error)
      end

      def io = @socket&.io || raise(IOError, "the line is closed")

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
