# frozen_string_literal: true

module NimbleLetter
  module Practice
    # The mail that characters and their servers send back, as real messages.
    module ReplyMail
      WORDS = {
        warm: [
          "Thank you for this. The room has been on my mind since Christmas. Could you come by next week, any day before eleven?",
          "Yes please. We have a party of forty on the 12th and I dread the noise already. What would a visit involve?",
          "Good timing. My partner and I listened to both recordings twice. When could somebody come and measure?",
          "I'd like to hear more. We are closed on Mondays, so that would be the day.",
          "That is exactly our trouble. Send me two dates and I will make one of them work."
        ],
        later: [
          "Interesting, but we are in the middle of the rebuild. Write again in the autumn?",
          "Not now. Budget is settled until April. Do keep me in mind.",
          "Could you come back to me after the summer? We will know more about the lease then."
        ],
        no: [
          "Thanks, but we had the ceiling done two years ago and are happy with it.",
          "Kind of you to write. We have decided to leave the room as it is."
        ],
        stop: ["Please take me off your list."]
      }.freeze

      # @param mail [Mail::Message] the letter that is answered
      # @return [String]
      def self.answer(mail, address, tone, random, at)
        words = WORDS.fetch(tone)
        quoted = mail.text_part.decoded.lines.map { |line| "> #{line}" }.join
        line = "On #{mail.date.strftime("%-d %b %Y, %H:%M")}, #{mail[:from].display_names.first} wrote:"
        body = "#{words[random.rand(words.size)]}\n\n#{line}\n#{quoted}"
        build(mail, address, at, "Re: #{mail.subject}", body)
      end

      def self.out_of_office(mail, address, at)
        back = (at + 9 * 86_400).strftime("%-d %B")
        build(
          mail,
          address,
          at,
          "Out of the office: #{mail.subject}",
          "Thank you for your letter. I am away until #{back} and will read it then.",
          "Auto-Submitted" => "auto-replied"
        )
      end

      def self.bounce(mail, address, at)
        domain = address.split("@").last
        <<~MESSAGE.gsub("\n", "\r\n")
          From: MAILER-DAEMON@#{domain}
          To: #{mail.from.first}
          Subject: Undelivered Mail Returned to Sender
          Date: #{at.rfc2822}
          Message-ID: <bounce.#{Digest::SHA256.hexdigest("#{address}#{mail.message_id}")[0, 24]}@#{domain}>
          Auto-Submitted: auto-replied
          MIME-Version: 1.0
          Content-Type: multipart/report; report-type=delivery-status; boundary="=_report"

          --=_report
          Content-Type: text/plain; charset=us-ascii

          I could not deliver your message to #{address}: there is no such mailbox here.

          --=_report
          Content-Type: message/delivery-status

          Reporting-MTA: dns; mx.#{domain}
          Arrival-Date: #{at.rfc2822}

          Final-Recipient: rfc822; #{address}
          Original-Recipient: rfc822; #{address}
          Action: failed
          Status: 5.1.1
          Remote-MTA: dns; mx.#{domain}
          Diagnostic-Code: smtp; 550 5.1.1 <#{address}>: Recipient address rejected: User unknown

          --=_report
          Content-Type: message/rfc822

          From: #{mail.from.first}
          To: #{address}
          Subject: #{mail.subject.to_s.encode("US-ASCII", invalid: :replace, undef: :replace)}
          Message-ID: <#{mail.message_id}>
          Date: #{mail.date.rfc2822}

          (text left out)

          --=_report--
        MESSAGE
      end

      def self.build(mail, address, at, subject, body, extra = {})
        Mail.new(charset: "UTF-8").tap do |answer|
          answer.from = mail[:to]&.formatted&.first || address
          answer.to = mail.from.first
          answer.subject = subject
          answer.date = at
          answer.message_id = "<#{Digest::SHA256.hexdigest("#{address}#{subject}#{mail.message_id}")[0, 24]}@#{address.split("@").last}>"
          answer.in_reply_to = "<#{mail.message_id}>"
          answer.references = "<#{mail.message_id}>"
          answer.body = body
          extra.each { |name, value| answer[name] = value }
        end.encoded
      end
      private_class_method :build
    end
  end
end
