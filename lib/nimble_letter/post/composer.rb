# frozen_string_literal: true

require "mail"

module NimbleLetter
  module Post
    # Makes the message of one delivery: both parts, the headers that mail programs and filters look for, and the way out.
    class Composer
      # subject, html and text as they are kept (without tracking); raw is what goes on the wire.
      Letter = Struct.new(:message_id, :subject, :html, :text, :links, :raw, :gaps)

      # @param tokens [Core::Tracking::Token]
      # @param public_url [String] what tracking links begin with
      # @param firm [Records::Firm]
      def initialize(tokens:, public_url:, firm:)
        @tokens, @public_url, @firm = tokens, public_url, firm
      end

      # @param now [Time] goes into the Date header
      # @return [Letter] with gaps, and then without raw, when something is missing in it
      def compose(delivery, letter:, mailbox:, facts:, to_name:, address:, line:, now:)
        merged = letter.merge.call(facts, personal_line: line)
        return Letter.new(nil, nil, nil, nil, [], nil, merged.gaps) if merged.gaps.any?

        subject = Core::Letters::TextWriter.line(merged.subject)
        links = links_of(merged)
        html, text = bodies(merged, delivery.key, links, mailbox)
        message_id = "#{delivery.key}@#{mailbox.address.split("@").last}"
        raw = message(subject: subject, mailbox: mailbox, to: [to_name, address], message_id: message_id, html: html, text: text, way_out: url("u", :unsubscribe, delivery.key), now: now)
        Letter.new(message_id, subject, kept_html(merged, mailbox), kept_text(merged, mailbox), links, raw, [])
      end

      private

      def bodies(merged, key, links, mailbox)
        signature = mailbox.signature(@firm)
        foot = Core::Letters::Foot.new(address: postal_line, unsubscribe_url: url("u", :unsubscribe, key))
        tracked = ->(href) { href.start_with?("mailto:") ? href : url("c", :click, key, links.index(href)) }
        html = Core::Letters::HtmlWriter.new(link: tracked, pixel_url: "#{url("o", :open, key)}.gif").write(merged, signature: signature, foot: foot)
        [html, Core::Letters::TextWriter.write(merged, signature: signature, foot: foot)]
      end

      def kept_html(merged, mailbox) = Core::Letters::HtmlWriter.new.write(merged, signature: mailbox.signature(@firm), foot: plain_foot)

      def kept_text(merged, mailbox) = Core::Letters::TextWriter.write(merged, signature: mailbox.signature(@firm), foot: plain_foot)

      def plain_foot = Core::Letters::Foot.new(address: postal_line)

      def postal_line = [@firm.name, @firm.postal_address].reject(&:empty?).join(", ")

      def links_of(merged) = merged.blocks.flat_map { |block| block.runs + (block.items || []).flatten }.filter_map(&:href).uniq

      def url(path, purpose, key, link = nil) = "#{@public_url}/#{path}/#{@tokens.write(purpose, key, link)}"

      def message(subject:, mailbox:, to:, message_id:, html:, text:, way_out:, now:)
        header = Mail::Header.new(nil, "UTF-8")
        header["From"] = address(mailbox.name, mailbox.address)
        header["To"] = address(*to)
        header["Subject"] = subject
        header["Date"] = now.rfc2822
        header["Message-ID"] = "<#{message_id}>"
        # RFC 8058 3.1: both headers, and a POST to the address takes the person off without another question.
        header["List-Unsubscribe"] = "<#{way_out}>"
        header["List-Unsubscribe-Post"] = "List-Unsubscribe=One-Click"
        Mime.alternative(header, text: text, html: html)
      end

      def address(name, address)
        Mail::Address.new.tap { |made| made.address, made.display_name = address, name.to_s.gsub(/[[:cntrl:]]+/, " ") }.format
      end
    end
  end
end
