# frozen_string_literal: true

require "json"
require "commonmarker"
require "erb"
require "stringio"

module NimbleLetter
  module Work
    # Makes a letter of a file: our JSON, a message (.eml), HTML or Markdown. Told apart by name, then by what is in it.
    class LetterIn
      MOST_BYTES = 24 * 1024 * 1024 # JSON carries its pictures and attachments, a third larger than they are
      WORDS = %w[name category manner language].freeze

      def initialize(moment)
        @moment = moment
        @reader = Files::LetterHtml.new(moment.catalogue)
      end

      # @param stream [#read]
      # @return [Records::Letter]
      # @raise [Invalid]
      def call(stream, name:)
        bytes = stream.read(MOST_BYTES + 1).to_s
        raise Invalid.new("A letter's file may have #{MOST_BYTES / 1024 / 1024} MB.", code: :too_large) if bytes.bytesize > MOST_BYTES
        raise Invalid.new("The file is empty.", code: :empty_file) if bytes.strip.empty?

        what = Files::Kind.of_text(bytes) unless File.extname(name.to_s.scrub("")).casecmp?(".eml")
        if what
          raise Invalid.new("This is #{what}, not a letter.", code: :not_a_letter, hint: "Copy its words, and paste them into a letter.")
        end

        text = bytes.dup.force_encoding("UTF-8")
        text = bytes.encode("UTF-8", "Windows-1252", undef: :replace, invalid: :replace) unless text.valid_encoding? ||
          File.extname(name.to_s).casecmp?(".eml")
        title = File.basename(name.to_s.scrub(""), ".*").then { |base| base.strip.empty? ? "A letter from a file" : base }
        @files = []
        Records.db.transaction do
          letter = WriteLetter.new(@moment).make(public_send(format_of(name, text), text, title))
          @files.each { |file| TakeAttachment.new(letter, @moment).call(StringIO.new(file.last), name: file.first) }
          letter
        end
      end

      # @api private: one method a format
      # @return [Hash] content of a letter
      def json(text, _title)
        file = JSON.parse(text)
        unless file.is_a?(Hash) && file["format"] == LetterOut::FORMAT && file["letter"].is_a?(Hash)
          raise Invalid.new(
            "This JSON is not a letter of ours.",
            code: :not_a_letter,
            hint: "It begins with \"format\": #{LetterOut::FORMAT.inspect}."
          )
        end

        wrong = WORDS.find { |name| ![String, NilClass].include?(file["letter"][name].class) }
        raise Invalid.new("The #{wrong} of this letter is no text.", code: :not_a_letter, at: wrong) if wrong

        @files = attachments(file["attachments"] || [])
        content = TakeAlong.new(@moment, pictures: file["pictures"], passages: file["passages"]).call(file["letter"])
        content.transform_keys(&:to_sym).slice(*Records::Letter::CONTENT)
      rescue JSON::ParserError
        raise Invalid.new("This is not JSON.", code: :not_a_letter)
      end

      def eml(text, title)
        mail = Files::MailFile.new(text)
        page = mail.html
        @files = mail.attachments
        {
          name: title,
          subject: one_line(mail.subject.to_s),
          body: held(page ? @reader.read(page) : document(mail.words)),
          manner: page&.match?(/<(table|img)\b/i) ? "designed" : "plain"
        }
      end

      def html(text, title) = {name: title, subject: one_line(@reader.title(text)), body: held(@reader.read(text))}

      def markdown(text, title)
        found = text.match(FRONT)
        front, body = found ? [found[1], found.post_match] : ["", text]
        said =
          front
            .scan(/^(title|subject|preview):[ \t]*(.+)$/)
            .to_h { |key, value| [key, value.strip.then { |one| one.start_with?('"') ? JSON.parse(one) : one }] }
        {
          name: said.fetch("title", title),
          subject: one_line(said.fetch("subject", "")),
          preview: one_line(said.fetch("preview", "")),
          body: held(@reader.read(html_of(body)))
        }
      rescue JSON::ParserError
        raise Invalid.new("The lines at the top of this file cannot be read.", code: :not_a_letter)
      end

      private

      # What the file says is for some people only is never for all.
      def held(body) = Core::Letters::FileMarks.hold(body)

      def document(words) = Core::Letters::Document.from_text(words.delete("\r"), catalogue: @moment.catalogue).to_h

      # A stroke within a field would be taken for the edge of a table.
      STROKE = "\u2758"
      TYPED = /\{\{[^{}]{0,320}\}\}/
      FRONT = /\A---[ \t]*\n(.*?)\n---[ \t]*(?:\n|\z)/m

      # CommonMark with tables, in time that grows with its length alone. HTML in it is read as all other HTML is.
      def html_of(markdown)
        CommonMarker
          .render_html(markdown.gsub(TYPED) { |field| field.gsub("|", STROKE) }, :UNSAFE, %i[table strikethrough])
          .gsub(TYPED) { |field| field.gsub(STROKE, "|") }
          .gsub(Core::Letters::LinkAddress::ENCODED) { |field| field.gsub(ERB::Util.url_encode(STROKE), "%7C") }
      end

      def format_of(name, text)
        case File.extname(name.to_s.scrub("")).downcase
        when ".json" then :json
        when ".eml" then :eml
        when ".html", ".htm" then :html
        when ".md", ".markdown", ".txt" then :markdown
        else
          if text.lstrip.start_with?("{")
            :json
          else
            (text.match?(/\A\s*</) ? :html : :markdown)
          end
        end
      end

      def one_line(words) =
        Core::Letters::Document
          .from_text(words.split.join(" "), catalogue: @moment.catalogue)
          .to_h
          .then { |root| root["content"].empty? ? Core::Letters::Document::EMPTY : root }

      # @return [Array<Array(String, String)>] names and bytes
      def attachments(entries)
        entries.grep(Hash).map { |entry| [entry["name"].to_s, entry["data"].to_s.unpack1("m0")] }
      rescue ArgumentError
        raise Invalid.new("A file that goes with this letter is broken.", code: :not_a_letter)
      end
    end
  end
end
