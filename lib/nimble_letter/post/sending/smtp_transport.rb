# frozen_string_literal: true

require "net/smtp"
require "openssl"
require "timeout"

module NimbleLetter
  module Post
    # Hands letters to a mail server (RFC 5321) over one connection that is kept open between them.
    class SmtpTransport
      NETWORK = [
        SystemCallError,
        IOError,
        SocketError,
        Timeout::Error, # and with it the library's Net::OpenTimeout, Net::ReadTimeout and Net::WriteTimeout
        OpenSSL::SSL::SSLError
      ].freeze
      # Seconds until a server that says nothing is given up, by what it is asked.
      PATIENCE = {connect: 10, command: 30, text: 60, end: 120}.freeze
      NOT_YET_ABOUT_THE_LETTER = %i[sender recipient].freeze

      # @param patience [Hash{Symbol=>Numeric}] other values of PATIENCE
      def initialize(host:, port:, helo: "localhost", patience: {})
        @host, @port, @helo = host, port, helo
        @patience = PATIENCE.merge(patience)
      end

      # @param raw [String] the message
      # @param from [String] envelope sender
      # @param to [String] envelope recipient
      # @return [Object] one of Outcomes
      def deliver(raw, from:, to:)
        kept = !@line.nil?
        outcome = hand_over(raw, from, WireAddress.of(to))
        # A server ends a connection that was idle (RFC 5321 3.8: 421). That says nothing about this letter, of which nothing
        # has reached the wire yet; a fresh connection does.
        (kept && @ended_idle) ? hand_over(raw, from, WireAddress.of(to)) : outcome
      end

      # Ends the connection as a guest does. A server that does not answer is left.
      def close
        line, @line = @line, nil
        line&.ask("QUIT", :end, 1)
      rescue *NETWORK
        # The other side has hung up already.
      ensure
        hang_up(line)
      end

      # From another thread: whoever waits for the server is told that the line broke.
      def break_off = @line&.break_off

      private

      def hand_over(raw, from, to)
        @ended_idle = false
        @stage = :greeting
        drop if @line&.out_of_turn?
        @line ||= connect
        refusal = opening(from, to)
        return not_taken(refusal) if refusal

        @stage = :end
        concluded(@line.hand_over(raw, @patience[:text], @patience[:end]))
      rescue Net::SMTPError => error
        drop
        not_let_in(error.message)
      rescue *NETWORK => error
        broken(error)
      end

      def connect
        line = SmtpLine.new(@host, @port, tls: false, starttls: false)
        line.open_timeout = line.read_timeout = @patience[:connect]
        # The library waits for each piece of an answer; this is for the whole of it.
        Timeout.timeout(@patience[:connect] * 2) { line.start(helo: @helo) }
        line
      end

      def not_let_in(words)
        answer = Core::Sending::Answer.new(words, stage: :greeting)
        answer.refused? ? Outcomes::Refused.new(answer) : Outcomes::Unreachable.new(no_answer(answer))
      end

      # @return [Core::Sending::Answer, nil] the one that did not let us go on
      def opening(from, to)
        {sender: "MAIL FROM:<#{from}>", recipient: "RCPT TO:<#{to}>"}.each do |stage, command|
          @stage = stage
          answer = @line.ask(command, stage, @patience[:command])
          return answer unless answer.accepted?
        end
        @stage = :text
        answer = @line.ask("DATA", :text, @patience[:command])
        answer unless answer.code == 354
      end

      # Before any of the text: whatever was said, the other side has nothing.
      def not_taken(answer)
        # 421 means the server hangs up.
        @ended_idle = answer.code == 421 && answer.stage == :sender
        (NOT_YET_ABOUT_THE_LETTER.include?(answer.stage) && answer.refused? && answer.code != 421) ? reset : drop
        answer.refused? ? Outcomes::Refused.new(answer) : Outcomes::Unreachable.new(no_answer(answer))
      end

      def concluded(answer)
        return Outcomes::Accepted.new(answer.words) if answer.stage == :end && answer.accepted?

        # After a text that was not taken nobody can be sure what the server listens for next.
        drop
        return Outcomes::Refused.new(answer) if answer.refused?

        (answer.stage == :end) ? Outcomes::Doubtful.new(no_answer(answer)) : Outcomes::Unreachable.new(no_answer(answer))
      end

      def broken(error)
        handed_over = @stage == :end && @line&.handed_over?
        drop
        @ended_idle = NOT_YET_ABOUT_THE_LETTER.include?(@stage)
        words = "The line broke: #{error.message}"
        handed_over ? Outcomes::Doubtful.new(words) : Outcomes::Unreachable.new(words)
      end

      def no_answer(answer) = "The mail server said what is no answer: #{answer.words[0, 200]}"

      # RFC 5321 4.1.1.5: leaves the connection clean for the next letter.
      def reset
        drop unless @line.ask("RSET", :sender, @patience[:command]).accepted?
      rescue *NETWORK
        drop
      end

      def drop
        line, @line = @line, nil
        hang_up(line)
      end

      def hang_up(line)
        line&.break_off
        line&.finish if line&.started?
      rescue *NETWORK, Net::SMTPError
        # It is gone, which is what was wanted.
      end
    end
  end
end
