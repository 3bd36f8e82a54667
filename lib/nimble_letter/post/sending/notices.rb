# frozen_string_literal: true

module NimbleLetter
  module Post
    # Sends short mails of our own, such as the code that proves a mailbox. One that was taken is forgotten, with what it said; one that
    # was not says why.
    class Notices
      AT_ONCE = 20

      # @param transport [#deliver]
      def initialize(transport:)
        @transport = transport
      end

      # @return [Boolean] whether there is anything to send
      def self.any? = Records::Notice.where(state: "waiting").any?

      # What a lost worker held is sent again: somebody waits for it, and twice does no harm.
      def self.recover
        held = Records::Notice.where(state: "on_wire").where { leased_until < Sequel.function(:utc_timestamp) }
        held.update(state: "waiting", leased_until: nil)
      end

      # @param moment [Work::Moment]
      # @return [Integer] notices handled
      def round(moment)
        Records::Notice.where(state: "waiting").order(:id).limit(AT_ONCE).all.count { |notice| take(notice) && send_one(notice, moment) }
      end

      private

      def take(notice)
        mine = {state: "on_wire", leased_until: Claims.from_now(Claims::ON_WIRE_SECONDS)}
        Records::Notice.where(id: notice.id, state: "waiting").update(mine) == 1
      end

      # @return [true]
      def send_one(notice, moment)
        box = notice.mailbox
        result = @transport.deliver(message(notice, box, moment), from: box.address, to: notice.address)
        result.is_a?(Outcomes::Accepted) ? Records::Notice.where(id: notice.id).delete : failed(notice, result.words)
        true
      rescue *Records::Patience::AWAY
        raise
      rescue *Work::PutAside::OF_ONE_THING => error
        failed(notice, error.message)
        true
      end

      def failed(notice, words)
        Records::Notice.where(id: notice.id).update(state: "failed", reason: words.to_s[0, 300], text: "", leased_until: nil)
      end

      def message(notice, box, moment)
        headers = Headers.new(
          "Date" => moment.now.rfc2822,
          "From" => Headers.address(moment.firm.name, WireAddress.of(box.address)),
          "To" => Headers.address(box.name, WireAddress.of(notice.address)),
          "Message-ID" => "<#{Records::Notice::MARK}#{notice.id}.#{notice.made_at.to_i}@#{box.address.split("@").last}>",
          "Subject" => notice.subject,
          # RFC 3834 5: nobody is to answer it by a machine.
          "Auto-Submitted" => "auto-generated",
          "MIME-Version" => "1.0",
          "Content-Type" => "text/plain; charset=UTF-8",
          "Content-Transfer-Encoding" => "quoted-printable"
        )
        "#{headers.encoded}\r\n#{Mail::Encodings::QuotedPrintable.encode(notice.text)}\r\n"
      end
    end
  end
end
