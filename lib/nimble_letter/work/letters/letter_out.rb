# frozen_string_literal: true

require "mail"
require "json"

module NimbleLetter
  module Work
    # A letter as a file: JSON (all of it, to be brought in again exactly), Markdown, HTML or a message (.eml). In the last
    # three its fields stand as {{first name}} and text for some people between marks; what they cannot carry is said.
    class LetterOut
      FORMATS = {
        "json" => "application/json",
        "md" => "text/markdown; charset=utf-8",
        "html" => "text/html; charset=utf-8",
        "eml" => "message/rfc822"
      }.freeze
      FORMAT = "nimble-letter/1"

      def initialize(letter, moment, base_url:)
        @letter, @moment, @base_url = letter, moment, base_url
      end

      # @param format [String] a key of FORMATS
      # @return [String]
      # @raise [Invalid]
      def file(format)
        case format
        when "json" then JSON.pretty_generate(whole)
        when "md" then markdown
        when "html" then html
        when "eml" then message
        else raise Invalid.new("A letter goes out as #{FORMATS.keys.join(", ")}.", at: "format")
        end
      end

      # @return [Array<String>] what cannot go along in this format, in words
      def left_out(format)
        documents = Records::Letter::PARTS.map { |part| @letter.document(part) } + passages
        Core::Letters::LeftOut.of(documents, format, language: @letter.language, attachments: @letter.attachments.map(&:name))
      end

      private

      # @return [Array<Core::Letters::Document>] the passages of the letter as Placeholders puts them in: for readers of any language
      def passages
        texts = @letter.passages.values.filter_map { |by_language| by_language[""] }
        texts.map { |json| Core::Letters::Document.new(json, @moment.catalogue) }
      end

      def whole
        passages = Records::Passage.where(id: @letter.passages.keys).order(:id).all
        pictures = Records::Picture.where(id: @letter.documents.flat_map(&:picture_ids).uniq).order(:id).all
        {format: FORMAT, letter: @letter.content, passages: passages.map { |one| {id: one.id, name: one.name, documents: one.documents} },
         pictures: pictures.map { |one| {id: one.id, name: one.name, data: [one.data].pack("m0")} },
         attachments: @letter.attachments.map { |one| {name: one.name, data: [one.data].pack("m0")} }}
      end

      def merged
        @merged ||= begin
          parts = Records::Letter::PARTS.to_h { |part| [part, @letter.document(part)] }
          Core::Letters::Placeholders.new(
            say: Sentences.new(@moment).method(:of),
            **parts,
            catalogue: @moment.catalogue,
            passages: @letter.passages,
            language: @letter.language
          ).call
        end
      end

      def markdown
        picture = ->(id) { Records::Picture.without_data.first(id: id)&.then { |one| "#{@base_url}#{one.path}" } }
        front = {title: @letter.name, subject: line(merged.subject), preview: line(merged.preview), left_out: said("md")}.compact
        lines = front.map { |name, value| "#{name}: #{JSON.generate(value)}\n" }.join
        "---\n#{lines}---\n\n#{Core::Letters::MarkdownWriter.new(picture: picture).write(merged)}"
      end

      def line(runs) = Core::Letters::TextWriter.line(runs)

      def setting = @setting ||= Typesetting.new(@letter, firm: @moment.firm, base_url: @base_url)

      def page = setting.html(merged, nil, foot: nil)

      def html = said("html") ? "#{page}\n<!-- Left out: #{said("html").gsub("--", "- -")} -->\n" : page

      def said(format) = left_out(format).then { |lost| lost.join("; ") if lost.any? }

      def message
        mail = Mail.new(charset: "UTF-8")
        mail.subject = line(merged.subject)
        mail.text_part = Mail::Part.new(content_type: "text/plain; charset=UTF-8", body: setting.text(merged, nil, foot: nil))
        mail.html_part = Mail::Part.new(content_type: "text/html; charset=UTF-8", body: page)
        @letter.attachments.each { |file| mail.add_file(filename: file.name, content: file.data) }
        mail.date = @moment.now
        mail.header["X-Unsent"] = "1"
        mail.header["X-Left-Out"] = said("eml") if said("eml")
        subject = Files::MailHeader.line("Subject", line(merged.subject))
        mail.encoded.sub(/^Subject:.*?\r\n(?![ \t])/m) { subject }
      end
    end
  end
end
