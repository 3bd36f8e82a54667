# frozen_string_literal: true

module NimbleLetter
  module Work
    # A letter as one person would get it now, beside the desk where it is written.
    class LookAtLetter
      # @param person [Records::Person]
      # @param sequence_id [Integer, nil] as of LetterAudience
      def initialize(letter, person, moment, sequence_id: nil)
        @letter, @person, @moment, @sequence_id = letter, person, moment, sequence_id
      end

      # @return [Hash]
      def json
        company = Records::Company.where(id: @person.company_id).get(:name)
        {
          person_id: @person.id,
          person: @person.name,
          company: company,
          place: (audience.place_of(@person) if audience.sequence),
          mailbox: mailbox && {address: mailbox.address, name: mailbox.name},
          state: "preview",
          text: setting.text(merged, mailbox),
          **MergedJson.write(merged, @moment.catalogue, unanswered: merging.unanswered[@person.id])
        }
      end

      # @return [String] what is put in, marked
      def html = setting.marked(merged, mailbox, @moment.catalogue)

      private

      def merging = @merging ||= Merging.new(@letter, [@person], @moment)

      def merged = @merged ||= merging.call(@person, mailbox)

      def audience = @audience ||= LetterAudience.new(@letter, @moment, sequence_id: @sequence_id)

      def setting = @setting ||= Typesetting.new(@letter, firm: @moment.firm)

      # As the plan says of the sequence it is written for. In none yet, the owner's, since that is whom they know; else one's own.
      def mailbox
        @mailbox ||= begin
          sequence = audience.sequence
          (sequence && Sender.mailbox_of(sequence, @person, @moment)) || without_plan
        end
      end

      def without_plan
        own = Records::Mailbox.in_use.order(Sequel.desc(Sequel.expr(account_id: @moment.account&.id)), :id).get(:id)
        Sender.new({"kind" => "owner", "mailbox_id" => own}).for(@person)
      end
    end
  end
end
