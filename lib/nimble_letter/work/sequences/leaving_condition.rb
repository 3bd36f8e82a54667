# frozen_string_literal: true

module NimbleLetter
  module Work
    # The condition by which people leave a sequence.
    module LeavingCondition
      # @param json [Object, nil] nil: there is none
      # @raise [Invalid] what cannot be read, and what would take out everybody
      def self.check(json, moment)
        return if json.nil? || !Core::Conditions::Everybody.meant?(moment.parser.parse!(json))

        raise Invalid.new("This condition is true of everybody: whoever joins would leave at once.", code: :everybody_leaves,
          at: "leave_if", hint: "Say of whom it is true, or take it out.")
      end
    end
  end
end
