# frozen_string_literal: true

module NimbleLetter
  module Web
    # A test letter as the contract has it.
    module TestLetterJson
      def self.write(test)
        there = test.message_id && Records.db[:practice_letters].where(message_id: test.message_id).get(:id)
        {**test.values.slice(:id, :state, :address, :reason, :created_at), person: test.person.name, practice_letter_id: there}
      end
    end
  end
end
