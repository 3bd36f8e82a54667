# frozen_string_literal: true

require "mail"
require "email_reply_parser"
require "loofah"

module NimbleLetter
  module Post
    # Takes in what came back: matches it to a person, letter and sequence, tells what it is, and lets it take effect.
    # Run twice over the same file it does nothing the second time: the file's name and the Message-ID are kept.
    class Intake
      # @param maildir [Maildir]
      def initialize(maildir:)
        @maildir = maildir
      end

      # @param moment [Work::Moment]
      # @return [Integer] pieces of mail taken in
      def round(moment)
        waiting = @maildir.waiting
        return 0 if waiting.empty?

        waiting.each { |name| take(name, moment) }.size
      end

      private

      def take(name, moment)
        raw = File.binread(@maildir.file(name))
        mail = Mail.new(raw)
        Records.db.transaction { store(name, raw, mail, moment) } unless known?(name, mail)
        @maildir.take_in(name)
      end

      def known?(name, mail)
        Records::Incoming.where(file_key: name).any? ||
          (mail.message_id && Records::Incoming.where(message_id: mail.message_id[0, 500], from_address: sender(mail)).any?)
      end

      def store(name, raw, mail, moment)
        bounce = BounceReader.read(@maildir.file(name), mail)
        text = reply_text(mail)
        delivery = bounce ? Matching.by_bounce(bounce) : Matching.by_thread(mail)
        person_id = delivery&.person_id || Matching.person_by_address(bounce ? bounce.recipient : sender(mail))
        kind = kind_of(mail, text, bounce, person_id)
        incoming =
          Records::Incoming.create(
            file_key: name,
            message_id: mail.message_id&.slice(0, 500),
            kind: kind,
            delivery_id: delivery&.id,
            person_id: person_id,
            from_address: sender(mail),
            from_name: clean(mail[:from]&.display_names&.first)&.slice(0, 190),
            subject: clean(mail.subject)&.slice(0, 998),
            text: text,
            raw: Sequel.blob(raw),
            received_at: moment.now,
            updated_at: moment.now,
            sort: %w[reply unmatched].include?(kind) ? "new" : "done"
          )
        take_effect(incoming, delivery, bounce, moment)
      end

      def kind_of(mail, text, bounce, person_id)
        return bounce.complaint ? "unsubscribe" : "bounce" if bounce

        found = Core::MailReading::Classifier.call(headers: headers(mail), text: text)
        (found == :reply && person_id.nil?) ? "unmatched" : found.to_s
      end

      EVENTS = {"reply" => "replied", "automatic" => "answered_automatically", "unsubscribe" => "unsubscribed"}.freeze

      def take_effect(incoming, delivery, bounce, moment)
        kind = bounce ? bounce.event : EVENTS[incoming.kind]
        return unless kind && incoming.person_id

        Work::Happening.call(
          kind,
          at: moment.now,
          person_id: incoming.person_id,
          delivery: delivery,
          data: {incoming_id: incoming.id, words: bounce&.words}.compact
        )
      end

      def headers(mail) = mail.header.fields.to_h { |field| [field.name.downcase, field.value.to_s] }

      def sender(mail) = clean(mail.from&.first)&.slice(0, 190)

      # What the person wrote, without the quoted letter below it.
      def reply_text(mail)
        part = mail.text_part || (mail unless mail.multipart? || mail.mime_type == "text/html")
        html = mail.html_part || (mail if mail.mime_type == "text/html")
        words = part ? clean(part.decoded) : Loofah.fragment(clean(html&.decoded).to_s).to_text
        cut = EmailReplyParser.parse_reply(words.gsub("\r\n", "\n")).strip
        cut.empty? ? words.strip : cut
      end

      def clean(text) = text&.dup&.force_encoding("UTF-8")&.scrub("�")&.delete("\u0000")
    end
  end
end
