# frozen_string_literal: true

module NimbleLetter
  module Post
    # Finds the letter, or at least the person, that a piece of mail is about.
    module Matching
      # @param candidates [Array<String>] Message-IDs, nearest first
      # @return [Records::Delivery, nil] the nearest of our letters it refers to
      def self.by_thread(candidates)
        found = Records::Delivery.where(message_id: candidates).as_hash(:message_id)
        candidates.filter_map { |id| found[id] }.first
      end

      # @param bounce [BounceReader::Bounce]
      # @return [Records::Delivery, nil]
      def self.by_bounce(bounce)
        (bounce.message_id && Records::Delivery.first(message_id: bounce.message_id)) ||
          bounce.recipients.lazy.filter_map { |address| last_letter(address) }.first
      end

      # @param address [String]
      # @param now [Time] by the clock in use
      # @return [Records::Delivery, nil] what somebody with this address answers who names no letter
      def self.by_address(address, now)
        last_letter(address)&.then { |letter| letter if Core::MailReading::Thread.answers_last?(letter.sent_at, now) }
      end

      # @return [Integer, nil] who was written to last at this address, else the oldest record with it
      def self.person_by_address(address)
        last_letter(address)&.person_id || people_at(address).order(:id).get(:id)
      end

      def self.last_letter(address)
        Records::Delivery
          .where(person_id: people_at(address).select(:id))
          .exclude(sent_at: nil)
          .order(Sequel.desc(:sent_at), Sequel.desc(:id))
          .first
      end
      private_class_method :last_letter

      # People answer from any of their addresses.
      def self.people_at(address)
        folds = [address, WireAddress.read(address)].uniq.filter_map { |one| Core::Fold.call(one) }
        further = Records::PersonAddress.where(email_fold: folds).select(:person_id)
        Records::Person.where(Sequel.|({email_fold: folds}, {id: further}))
      end
      private_class_method :people_at
    end
  end
end
