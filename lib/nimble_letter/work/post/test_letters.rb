# frozen_string_literal: true

module NimbleLetter
  module Work
    # Asks for a letter to be sent to colleagues as a test. The worker sends it within a moment.
    module TestLetters
      MOST_AT_ONCE = 5

      # @param person [Records::Person] as whom it is written
      # @param accounts [Array<Records::Account>] who gets it
      # @return [Array<Records::TestLetter>]
      # @raise [Invalid]
      def self.ask(letter, person, accounts, moment:)
        raise Invalid.new("Choose who gets the test.", at: "to") if accounts.empty?
        raise Invalid.new("A test goes to #{MOST_AT_ONCE} colleagues at once.", at: "to") if accounts.size > MOST_AT_ONCE

        silent = accounts.find { |account| account.email.nil? }
        raise Invalid.new("#{silent.name} has no address to send a test to.", at: "to") if silent
        raise Invalid.new("There is nothing to read in this letter yet.", code: :no_text) if letter.document(:body).empty?

        accounts.map do |account|
          Records::TestLetter.create(
            letter_id: letter.id,
            person_id: person.id,
            account_id: account.id,
            address: account.email,
            created_at: moment.now
          )
        end
      end

      # @return [Records::Mailbox, nil] the colleague's own, or any that is proved
      def self.mailbox_for(account)
        boxes = Records::Mailbox.in_use.exclude(proved_at: nil).eager(:account).order(:id).all
        boxes.find { |box| box.account_id == account.id } || boxes.first
      end
    end
  end
end
