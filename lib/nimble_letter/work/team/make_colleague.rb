# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes a colleague who looks after people and does not sign in: a name in a file of contacts, mostly.
    module MakeColleague
      # @param name [String]
      # @return [Records::Account]
      # @raise [Invalid] when there is one of this name already
      # @raise [Forbidden] unless an admin asks, with a password given lately
      def self.call(name, moment:)
        moment.admin!
        moment.fresh!
        name = Core::Letters::Values.clean(name.to_s)&.slice(0, 120) or raise Invalid.new("A colleague needs a name.", at: "name")
        if Records::Account.all.any? { |one| Core::Fold.call(one.name) == Core::Fold.call(name) }
          raise Invalid.new("There is already a colleague “#{name}”.", at: "name")
        end

        moment.note("colleague_made", about: name)
        Records::Account.create(name: name, role: "colleague", created_at: moment.now)
      end
    end
  end
end
