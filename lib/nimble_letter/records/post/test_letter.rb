# frozen_string_literal: true

module NimbleLetter
  module Records
    # A letter on its way to a colleague, written as one person would get it.
    class TestLetter < Sequel::Model(:test_letters)
      many_to_one :letter
      many_to_one :person
      many_to_one :account
    end
  end
end
