# frozen_string_literal: true

module NimbleLetter
  module Post
    # Finds the letter, or at least the person, that a piece of mail is about.
    module Matching
      # @param mail [Mail::Message]
      # @return [Records::Delivery, nil] the nearest of our letters it refers to
      def self.by_thread(mail)
        ids = Core::MailReading::Thread.candidates(in_reply_to: mail[:in_reply_to]&.value, references: mail[:references]&.value)
        found = Records::Delivery.where(message_id: ids).as_hash(:message_id)
        ids.filter_map { |id| found[id] }.first
      end

      # @param bounce [BounceReader::Bounce]
      # @return [Records::Delivery, nil]
      def self.by_bounce(bounce)
        (bounce.message_id && Records::Delivery.first(message_id: bounce.message_id)) ||
          Records::Delivery
            .where(person_id: people_at(bounce.recipient).select(:id))
            .exclude(sent_at: nil)
            .order(Sequel.desc(:sent_at))
            .first
      end

      # @return [Integer, nil] who was written to last at this address, else the oldest record with it
      def self.person_by_address(address)
        written =
          Records::Delivery
            .where(person_id: people_at(address).select(:id))
            .exclude(sent_at: nil)
            .order(Sequel.desc(:sent_at))
            .get(:person_id)
        written || people_at(address).order(:id).get(:id)
      end

      # People answer from any of their addresses.
      def self.people_at(address)
        fold = Core::Fold.call(address) || ""
        Records::Person.where(Sequel.|({email_fold: fold}, {id: Records::PersonAddress.where(email_fold: fold).select(:person_id)}))
      end
      private_class_method :people_at
    end
  end
end
