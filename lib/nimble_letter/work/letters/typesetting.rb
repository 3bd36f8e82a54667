# frozen_string_literal: true

module NimbleLetter
  module Work
    # Sets one letter as HTML and text in the firm's look, with its pictures and the signature of whoever it comes from.
    # What goes out, what the stack shows and what the preview shows are all set here.
    class Typesetting
      # @param letter [Records::Letter]
      # @param firm [Records::Firm]
      # @param base_url [String] what addresses of pictures begin with; empty for screens of our own
      def initialize(letter, firm:, base_url: "")
        @letter, @firm, @base_url = letter, firm, base_url
      end

      # @param merged [Core::Letters::Merged]
      # @param mailbox [Records::Mailbox, nil]
      # @param rest [Hash] link, pixel_url, mark, head: see Core::Letters::HtmlWriter
      # @return [String]
      def html(merged, mailbox, foot: self.foot, **rest)
        Core::Letters::HtmlWriter.new(
          styles: InlinedStyles.of(@firm.look, designed: @letter.designed?),
          designed: @letter.designed?,
          picture: method(:picture),
          **rest
        ).write(
          merged,
          signature: signature(mailbox),
          foot: foot,
          brand: @letter.designed? ? {name: @firm.name, picture_id: @firm.look["logo_picture_id"]} : nil
        )
      end

      # For our own screens: what is put in is marked, and the way out leads nowhere.
      # @return [String]
      def marked(merged, mailbox, catalogue)
        html(
          merged,
          mailbox,
          foot: foot("#"),
          mark: Core::Letters::Marking.new(catalogue),
          head: "<style>#{Core::Letters::Marking::CSS}</style>"
        )
      end

      # @return [String]
      def text(merged, mailbox, foot: self.foot) = Core::Letters::TextWriter.write(merged, signature: signature(mailbox), foot: foot)

      # @param unsubscribe_url [String, nil]
      # @return [Core::Letters::Foot]
      def foot(unsubscribe_url = nil)
        Core::Letters::Foot.new(
          address: [@firm.name, @firm.postal_address].reject(&:empty?).join(", "),
          unsubscribe_url: unsubscribe_url,
          language: @letter.language
        )
      end

      private

      # @return [Hash, nil] url and width
      def picture(id)
        found = (@pictures ||= Hash.new { |kept, one| kept[one] = Records::Picture.without_data.first(id: one) })[id]
        found && {url: "#{@base_url}#{found.path}", width: found.width}
      end

      def signature(mailbox)
        return [] unless mailbox

        (@signatures ||= {})[mailbox.id] ||= begin
          catalogue = Records::FieldCatalogue.current
          parts =
            {
              subject: Core::Letters::Document::EMPTY,
              preview: Core::Letters::Document::EMPTY,
              body: mailbox.signed(@firm)
            }.transform_values { |json| Core::Letters::Document.new(json, catalogue) }
          Core::Letters::Merge.new(**parts, catalogue: catalogue).call(mailbox.sender_facts).blocks
        end
      end
    end
  end
end
