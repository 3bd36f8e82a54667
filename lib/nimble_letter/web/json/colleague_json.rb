# frozen_string_literal: true

module NimbleLetter
  module Web
    # A colleague as an admin sees them.
    module ColleagueJson
      def self.write(account)
        {
          id: account.id,
          name: account.name,
          email: account.email,
          role: account.role,
          # A name in a file of contacts has no sign-in at all.
          signs_in: !account.password_hash.nil?,
          closed: !account.open?
        }
      end
    end
  end
end
