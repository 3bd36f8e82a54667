# frozen_string_literal: true

module NimbleLetter
  module Records
    # A piece of possible work with a stage and a value in pence.
    class Deal < Sequel::Model(:deals)
      many_to_one :person
    end
  end
end
