# frozen_string_literal: true

module NimbleLetter
  module Web
    # A colleague as an admin sees them.
    module ColleagueJson
      # @param accounts [Array<Records::Account>]
      # @return [Array<Hash>]
      def self.rows(accounts)
        theirs = Work::Theirs.of(accounts.map(&:id))
        accounts.map { |one| write(one, theirs.fetch(one.id)) }
      end

      # @param theirs [Hash] see Work::Theirs
      def self.write(account, theirs = Work::Theirs.of([account.id]).fetch(account.id))
        {
          id: account.id,
          name: account.name,
          email: account.email,
          role: account.role,
          # A name in a file of contacts has no sign-in at all.
          signs_in: !account.password_hash.nil?,
          closed: !account.open?,
          **theirs
        }
      end
    end
  end
end
