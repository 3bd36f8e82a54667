# frozen_string_literal: true

module NimbleLetter
  module Work
    # Looks a letter over before it goes: Core::Letters::Checks with what the records know.
    class LetterChecks
      # @param letter [Records::Letter]
      # @param sequence_id [Integer, nil] as of LetterAudience
      def initialize(letter, moment, sequence_id: nil)
        @letter, @moment, @sequence_id = letter, moment, sequence_id
      end

      # @return [Array<Core::Letters::Checks::Advice>] without what was set aside
      def call = all.reject { |advice| !advice.blocking && set_aside.include?(advice.code) }

      # @return [Array<Core::Letters::Checks::Advice>]
      def all = @all ||= Core::Letters::Checks.call(given(gaps: gaps, html_bytes: html_bytes))

      # What stands in the way of sending, whoever it goes to.
      # @return [Array<Core::Letters::Checks::Advice>]
      def blocking = Core::Letters::Checks.call(given(gaps: {}, html_bytes: 0)).select(&:blocking)

      def set_aside = @letter.set_aside || []

      private

      def given(gaps:, html_bytes:)
        parts = Records::Letter::PARTS.to_h { |part| [part, @letter.document(part)] }
        Core::Letters::Checks::Given.new(
          **parts,
          passages: @letter.documents.drop(parts.size),
          designed: @letter.designed?,
          for_deal: @letter.for_deal?,
          html_bytes: html_bytes,
          gaps: gaps,
          postal_address: @moment.firm.postal_address,
          contrasts: @moment.firm.look.contrasts,
          catalogue: @moment.catalogue,
          attachment_bytes: Records::Attachment.where(letter_id: @letter.id).sum(:bytes)
        )
      end

      def gaps = LetterAudience.new(@letter, @moment, sequence_id: @sequence_id).gaps

      def html_bytes
        nobody = @letter.merge.call({}, shown: ->(_) { true })
        Typesetting.new(@letter, firm: @moment.firm).html(nobody, Records::Mailbox.first).bytesize
      end
    end
  end
end
