# frozen_string_literal: true

module NimbleLetter
  module Post
    # Sends the letters that colleagues asked for as a test, each written as one person would get it. One that was taken
    # by the mail server is not sent again; one that was not says why.
    class TestLetters
      # @param transport [#deliver]
      # @param composer [Composer]
      def initialize(transport:, composer:)
        @transport, @composer = transport, composer
      end

      # @param moment [Work::Moment]
      # @return [Integer] letters handled
      def round(moment)
        waiting = Records::TestLetter.where(state: "waiting").order(:id).limit(20).all
        waiting.count { |test| take(test) && send_one(test, moment) }
      end

      private

      # Two workers must not send the same one.
      def take(test) = Records::TestLetter.where(id: test.id, state: "waiting").update(state: "on_wire") == 1

      def send_one(test, moment)
        letter, person = test.letter, test.person
        box = Work::TestLetters.mailbox_for(test.account) or return failed(test, "There is no mailbox to send it from.")
        key = "#{test.id}.#{test.created_at.to_i}"
        raw =
          @composer.compose_test(
            key,
            merged: merged(letter, person, box, moment),
            setting: Work::Typesetting.new(letter, firm: moment.firm, base_url: @composer.public_url),
            mailbox: box,
            to: [test.account.name, test.address],
            now: moment.now,
            attachments: letter.attachments
          )
        result = @transport.deliver(raw, from: box.address, to: test.address)
        return failed(test, result.words) unless result.is_a?(Outcomes::Accepted)

        test.update(state: "sent", message_id: raw[/^Message-ID:\s*<([^>]+)>/i, 1])
        true
      rescue Error => error
        failed(test, error.message)
      end

      # A test shows where something is missing instead of passing over it.
      def merged(letter, person, box, moment)
        Work::Merging
          .new(letter, [person], moment)
          .call(person, box)
          .naming_gaps { |key| "[#{Core::Fields::Field.within_sentence(moment.catalogue[key]&.label || key)} is missing]" }
      end

      def failed(test, reason)
        test.update(state: "failed", reason: reason.to_s[0, 300])
        true
      end
    end
  end
end
