# frozen_string_literal: true

require "midi-smtp-server"
require "logger"
require "time"

module NimbleLetter
  module Practice
    # The practice post office: a real SMTP server on loopback. It keeps every letter and lets its characters plan what
    # they will do; the conductor plays it when the practice clock gets there.
    class PostOffice < MidiSmtpServer::Smtpd
      # @param port [Integer]
      # @param clock [#now]
      # @param seed [Integer] the same seed gives the same story
      def initialize(port:, clock:, seed: 1)
        @clock, @seed = clock, seed
        super(
ports: port.to_s, hosts: "127.0.0.1", max_processings: 8, do_dns_reverse_lookup: false, auth_mode: :AUTH_FORBIDDEN,
logger: Logger.new($stderr, level: Logger::FATAL), io_buffer_chunk_size: 64 * 1024)
      end

      def on_rcpt_to_event(_context, address)
        plain = address[/<?([^<>]+)>?/, 1]
        case Temperament.of(plain, @seed)
        when :refusing then raise MidiSmtpServer::SmtpdException.new(nil, 550, "5.1.1 #{plain}: no such mailbox here")
        when :busy then raise MidiSmtpServer::Smtpd451Exception
        end
        plain
      end

      def on_message_data_event(context)
        raw = context[:message][:data]
        raise MidiSmtpServer::SmtpdException.new(nil, 554, "5.7.1 nothing from you is taken here") if any?(context, :wary)

        begin
          context[:envelope][:to].each { |address| take(raw, address[/<?([^<>]+)>?/, 1]) }
        rescue *Records::Patience::AWAY
          raise MidiSmtpServer::SmtpdException.new(nil, 451, "4.3.0 the post office cannot keep it just now")
        end
        hang_up if any?(context, :dropping)
      end

      private

      def any?(context, temperament)
        context[:envelope][:to].any? { |address| Temperament.of(address[/<?([^<>]+)>?/, 1], @seed) == temperament }
      end

      # The letter is taken, and the sender never hears of it: ending this connection's thread closes the line without a word.
      def hang_up = Thread.exit

      def dated(raw)
        Time.rfc2822(raw[/^Date:\s*(.+?)\r?$/i, 1].to_s).utc
      rescue ArgumentError
        nil
      end

      def take(raw, address)
        # Letters of one batch are handed over together and say themselves when each of them left.
        at = [@clock.now, dated(raw)].compact.max
        Records.db.transaction do
          letters = Records.db[:practice_letters]
          nth = letters.where(recipient: address).count
          letters.insert(recipient: address, message_id: raw[/^Message-ID:\s*<([^>]+)>/i, 1].to_s, received_at: at, raw: raw)
          next if raw.match?(/^X-Nimble-Test:/i) # a colleague reads it, not a character

          reactions = Character.new(raw, address: address, at: at, seed: @seed, nth: nth).reactions
          Records.db[:practice_reactions].import(
            %i[at kind data],
            reactions.map { |reaction| [reaction.at, reaction.kind, JSON.generate(reaction.data)] }
          )
        end
      end
    end
  end
end
