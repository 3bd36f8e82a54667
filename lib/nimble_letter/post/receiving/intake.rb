# frozen_string_literal: true

module NimbleLetter
  module Post
    # Takes in what came back: matches it to a person, letter and sequence, tells what it is, and lets it take effect.
    # Run twice over the same file it does nothing the second time: the file's name and the Message-ID are kept. Several
    # workers on one folder take turns. A piece that cannot be worked on is set aside, and the next one is taken.
    class Intake
      EVENTS = {"reply" => "replied", "automatic" => "answered_automatically", "unsubscribe" => "unsubscribed"}.freeze
      KIND = "mail"
      # Beyond what the column holds; the whole piece stays in its folder.
      RAW_BYTES = 8 * 1024 * 1024

      # @param maildir [Maildir]
      # @param patience [Records::Patience] rides out a database that goes away
      def initialize(maildir:, patience: Records::Patience.new)
        @maildir, @patience = maildir, patience
      end

      # @param moment [Work::Moment]
      # @return [Integer] pieces of mail handled
      def round(moment)
        take_up_again
        waiting = @maildir.waiting
        return 0 if waiting.empty?

        @patience.ride { Records::TakingTurns.with("intake") { waiting.count { |name| take(name, moment) } } } || 0
      end

      private

      # Somebody asked for another try.
      def take_up_again
        Records::SetAside.where(kind: KIND, again: true).select_map(:key).each { |name| @maildir.put_back(name) }
      end

      # @return [Boolean] false when somebody else took it meanwhile
      def take(name, moment)
        raw, received = MailReader.read(@maildir.file(name))
        Records.db.transaction { store(name, raw, received, moment) } unless known?(name, received)
        Work::PutAside.done(KIND, name)
        @maildir.take_in(name)
        true
      rescue Errno::ENOENT
        false
      rescue *Records::Patience::AWAY
        raise
      rescue Sequel::UniqueConstraintViolation
        @maildir.take_in(name)
        true
      rescue *Work::PutAside::OF_ONE_THING => error
        set_aside(name, error, moment)
      end

      def set_aside(name, error, moment)
        source = File.binread(@maildir.file(name), Work::PutAside::SOURCE_BYTES)
        Work::PutAside.call(KIND, name, error, at: moment.now, source: source)
        @maildir.set_aside(name)
        true
      end

      def known?(name, received)
        Records::Incoming.where(file_key: name).any? ||
          (received.message_id && Records::Incoming.where(message_id: received.message_id, from_address: received.from_address).any?)
      end

      def store(name, raw, received, moment)
        bounce = received.bounce
        delivery = bounce ? Matching.by_bounce(bounce) : Matching.by_thread(received.candidates)
        person_id = delivery&.person_id || person(received)
        kind = kind_of(received, person_id)
        delivery ||= Matching.by_address(received.from_address, moment.now) unless bounce
        incoming =
          Records::Incoming.create(
            file_key: name,
            message_id: received.message_id,
            kind: kind,
            delivery_id: delivery&.id,
            person_id: person_id,
            from_address: received.from_address,
            from_name: received.from_name,
            subject: received.subject,
            text: received.text,
            raw: Sequel.blob(raw.byteslice(0, RAW_BYTES)),
            received_at: moment.now,
            updated_at: moment.now,
            sort: %w[reply unmatched].include?(kind) ? "new" : "done"
          )
        take_effect(incoming, delivery, bounce, moment)
      end

      def person(received)
        addresses = received.bounce ? received.bounce.recipients : [received.from_address].compact
        addresses.lazy.filter_map { |address| Matching.person_by_address(address) }.first
      end

      def kind_of(received, person_id)
        return received.bounce.complaint ? "unsubscribe" : "bounce" if received.bounce

        found = Core::MailReading::Classifier.call(headers: received.headers, text: received.text)
        (found == :reply && person_id.nil?) ? "unmatched" : found.to_s
      end

      # @return [Date, nil]
      def away_until(incoming, moment)
        return unless incoming.kind == "automatic"

        order = (moment.firm.date_order == "mdy") ? "mdy" : "dmy"
        words = [incoming.subject, incoming.text].compact.join(". ")
        Core::MailReading::ReturnDate.find(words, on: moment.today, order: order)
      end

      def take_effect(incoming, delivery, bounce, moment)
        kind = bounce ? bounce.event : EVENTS[incoming.kind]
        return unless kind && incoming.person_id

        away = away_until(incoming, moment)
        data = {incoming_id: incoming.id, words: bounce&.words, away_until: away&.iso8601}.compact
        Work::Happening.call(kind, at: moment.now, person_id: incoming.person_id, delivery: delivery, data: data)
        Work::Away.call(incoming.person_id, away, moment) if away
      end
    end
  end
end
