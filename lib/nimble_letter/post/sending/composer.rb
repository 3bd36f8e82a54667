# frozen_string_literal: true

require "mail"

module NimbleLetter
  module Post
    # Makes the message of one delivery: both parts, the headers that mail programs and filters look for, and the way out.
    class Composer
      MOST_REFERENCES = 20 # a line of a header has an end

      # subject, html and text as they are kept (without tracking); raw is what goes on the wire; filed is the copy for the files, which
      # tells nobody that it was opened.
      Letter = Struct.new(:message_id, :subject, :html, :text, :links, :raw, :gaps, :filed)
      TEST = "Test: "

      attr_reader :public_url

      # @param tokens [Core::Tracking::Token]
      # @param public_url [String] what tracking links begin with
      def initialize(tokens:, public_url:)
        @tokens, @public_url = tokens, public_url
      end

      # @param key [String] of the delivery
      # @param merged [Core::Letters::Merged]
      # @param setting [Work::Typesetting]
      # @param to [Array(String, String)] name and address
      # @param now [Time] goes into the Date header
      # @param thread [Array<String>] Message-IDs of the letters it answers, oldest first
      # @return [Letter] with gaps, and then without raw, when something is missing in it
      def compose(key, merged:, setting:, mailbox:, to:, now:, attachments: [], thread: [])
        return Letter.new(nil, nil, nil, nil, [], nil, merged.gaps) if merged.gaps.any?

        subject = Core::Letters::TextWriter.line(merged.subject)
        links = merged.links
        way_out = url("u", :unsubscribe, key)
        foot = setting.foot(way_out)
        tracked = ->(href) { ((i = links.index(href)) && href.start_with?("http")) ? url("c", :click, key, i) : href }
        html = setting.html(merged, mailbox, foot: foot, link: tracked, pixel_url: "#{url("o", :open, key)}.gif")
        message_id = "#{key}@#{mailbox.address.split("@").last}"
        header = header(subject, mailbox, to, message_id, now)
        answering(header, thread)
        header["Reply-To"] = WireAddress.of(mailbox.reply_to) if mailbox.reply_to
        # RFC 8058 3.1: both headers, and a POST to the address takes the person off without another question.
        header["List-Unsubscribe"] = "<#{way_out}>"
        header["List-Unsubscribe-Post"] = "List-Unsubscribe=One-Click"
        raw = Mime.message(header, text: setting.text(merged, mailbox, foot: foot), html: html, attachments: attachments)
        kept = [setting.html(merged, mailbox), setting.text(merged, mailbox)]
        filed = (Mime.message(filing(header), html: kept.first, text: kept.last, attachments: attachments) if mailbox.filing_address)
        Letter.new(message_id, subject, *kept, links, raw, [], filed)
      end

      # The same letter for a colleague's eyes: marked as a test, followed by nobody.
      # @return [String] the message
      def compose_test(key, merged:, setting:, mailbox:, to:, now:, attachments: [])
        subject = "#{TEST}#{Core::Letters::TextWriter.line(merged.subject)}"
        foot = setting.foot("#{@public_url}/u/test")
        header = header(subject, mailbox, to, "test-#{key}@#{mailbox.address.split("@").last}", now)
        # RFC 3834 5: nobody is to answer it by a machine.
        header["Auto-Submitted"] = "auto-generated"
        header["X-Nimble-Test"] = "yes"
        Mime.message(
          header,
          text: setting.text(merged, mailbox, foot: foot),
          html: setting.html(merged, mailbox, foot: foot),
          attachments: attachments
        )
      end

      private

      def url(path, purpose, key, link = nil) = "#{@public_url}/#{path}/#{@tokens.write(purpose, key, link)}"

      # The same letter for the files: with no way out of it, and a number of its own.
      def filing(header)
        header.without("List-Unsubscribe", "List-Unsubscribe-Post").tap do |copy|
          copy["Message-ID"] = header["Message-ID"].sub("<", "<filed-")
          copy["Auto-Submitted"] = "auto-generated"
        end
      end

      # RFC 5322 3.6.4: the one it answers, and the whole thread.
      def answering(header, thread)
        return if thread.empty?

        header["In-Reply-To"] = "<#{thread.last}>"
        header["References"] = thread.last(MOST_REFERENCES).map { |id| "<#{id}>" }.join(" ")
      end

      def header(subject, mailbox, to, message_id, now)
        Headers.new(
          "Date" => now.rfc2822,
          "From" => Headers.address(mailbox.name, WireAddress.of(mailbox.address)),
          "To" => Headers.address(to.first, WireAddress.of(to.last)),
          "Message-ID" => "<#{message_id}>",
          "Subject" => subject
        )
      end
    end
  end
end
