# frozen_string_literal: true

module NimbleLetter
  module Post
    # Sends the letters that colleagues asked for as a test, each written as one person would get it. One that was taken
    # by the mail server is not sent again; one that was not says why, and one that a lost worker held says so.
    class TestLetters
      AT_ONCE = 20
      LOST = "The worker was lost while it was being sent. Send it again if it has not come."

      # @param transport [#deliver, #break_off]
      # @param composer [Composer]
      def initialize(transport:, composer:)
        @transport, @composer = transport, composer
      end

      # @return [Boolean] whether there is anything to send
      def self.any? = Records::TestLetter.where(state: "waiting").any?

      # What a lost worker held is not left hanging.
      # @return [Integer]
      def self.recover
        held = Records::TestLetter.where(state: "on_wire")
        held
          .where { Sequel.|({leased_until: nil}, leased_until < Sequel.function(:utc_timestamp, 6)) }
          .update(state: "failed", reason: LOST)
      end

      # @param moment [Work::Moment]
      # @param stop [#call] asked before each letter
      # @return [Integer] letters handled
      def round(moment, stop: -> { false })
        waiting = Records::TestLetter.where(state: "waiting").order(:id).limit(AT_ONCE).all
        waiting.count { |test| !stop.call && take(test) && send_one(test, moment) }
      end

      def break_off = @transport.break_off

      private

      # Two workers must not send the same one.
      def take(test)
        mine = {state: "on_wire", leased_until: Claims.from_now(Claims::ON_WIRE_SECONDS)}
        Records::TestLetter.where(id: test.id, state: "waiting").update(mine) == 1
      end

      def send_one(test, moment)
        box = Work::TestLetters.mailbox_for(test.account) or return failed(test, "There is no mailbox to send it from.")
        raw = compose(test, box, moment)
        result = @transport.deliver(raw, from: box.address, to: test.address)
        return failed(test, result.words) unless result.is_a?(Outcomes::Accepted)

        ended(test, state: "sent", message_id: raw[/^Message-ID:\s*<([^>]+)>/i, 1])
      rescue *Records::Patience::AWAY
        raise
      rescue *Work::PutAside::OF_ONE_THING => error
        failed(test, error.message)
      end

      def compose(test, box, moment)
        letter = test.letter
        @composer.compose_test(
          "#{test.id}.#{test.created_at.to_i}",
          merged: merged(letter, test.person, box, moment),
          setting: Work::Typesetting.new(letter, firm: moment.firm, base_url: @composer.public_url),
          mailbox: box,
          to: [test.account.name, test.address],
          now: moment.now,
          attachments: letter.attachments
        )
      end

      # A test shows where something is missing instead of passing over it.
      def merged(letter, person, box, moment)
        Work::Merging
          .new(letter, [person], moment)
          .call(person, box)
          .naming_gaps { |key| "[#{Core::Fields::Field.within_sentence(moment.catalogue[key]&.label || key)} is missing]" }
      end

      def failed(test, reason) = ended(test, state: "failed", reason: reason.to_s[0, 300])

      def ended(test, **outcome)
        Records::TestLetter.where(id: test.id).update(leased_until: nil, **outcome)
        true
      end
    end
  end
end
