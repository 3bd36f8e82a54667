# frozen_string_literal: true

require "net/smtp"

module NimbleLetter
  module Post
    # Hands letters to a mail server (RFC 5321) over one connection that is kept open between them.
    class SmtpTransport
      # Small packets: without this each message waits about 40 ms for an acknowledgement (Nagle and delayed ACK).
      class PromptSMTP < Net::SMTP
        private

        def tcp_socket(address, port)
          super.tap { |socket| socket.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, 1) }
        end
      end

      NETWORK = [SystemCallError, IOError, SocketError, Net::OpenTimeout, Net::ReadTimeout].freeze

      # @param timeout_seconds [Integer]
      def initialize(host:, port:, helo: "localhost", timeout_seconds: 10)
        @host, @port, @helo, @timeout_seconds = host, port, helo, timeout_seconds
      end

      # @param raw [String] the message with CRLF line ends
      # @param from [String] envelope sender
      # @param to [String] envelope recipient
      # @return [Object] one of Outcomes
      def deliver(raw, from:, to:)
        kept = !@smtp.nil?
        outcome = hand_over(raw, from, to)
        # A server ends a connection that was idle (RFC 5321 3.8: 421). That says nothing about this letter, of which nothing
        # has reached the wire yet; a fresh connection does.
        (kept && @ended_idle) ? hand_over(raw, from, to) : outcome
      end

      def close
        @smtp&.finish
      rescue *NETWORK, Net::ProtocolError
        # The other side has hung up already.
      ensure
        @smtp = nil
      end

      private

      def hand_over(raw, from, to)
        on_wire = @ended_idle = false
        smtp = connection
        smtp.mailfrom(from)
        smtp.rcptto(to)
        on_wire = true
        Outcomes::Accepted.new(smtp.data(raw).string.strip)
      rescue Net::SMTPServerBusy => error
        @ended_idle = !on_wire && error.message.start_with?("421")
        refused(error, false)
      rescue Net::SMTPFatalError, Net::SMTPSyntaxError, Net::SMTPUnknownError => error
        refused(error, true)
      rescue Net::SMTPAuthenticationError => error
        close
        Outcomes::Unreachable.new(error.message.strip)
      rescue *NETWORK => error
        close
        @ended_idle = !on_wire
        on_wire ? Outcomes::Doubtful.new("The line broke: #{error.message}") : Outcomes::Unreachable.new(error.message)
      end

      def connection
        return @smtp if @smtp&.started?

        @smtp = PromptSMTP.new(@host, @port, tls: false, starttls: false)
        @smtp.open_timeout = @smtp.read_timeout = @timeout_seconds
        @smtp.start(helo: @helo)
        @smtp
      end

      def refused(error, for_good)
        # 421 means the server hangs up; a reset leaves the connection clean for the next letter.
        error.message.start_with?("421") ? close : reset
        Outcomes::Refused.new(error.message.strip, for_good)
      end

      def reset
        @smtp&.rset
      rescue *NETWORK, Net::ProtocolError
        close
      end
    end
  end
end
