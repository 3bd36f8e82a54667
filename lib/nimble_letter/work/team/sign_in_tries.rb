# frozen_string_literal: true

module NimbleLetter
  module Work
    # Slows down whoever tries passwords, and shuts nobody out: tries are counted for the connection and for the account,
    # those at a device the colleague knows apart from those of strangers. Connections that try the same account take turns, so that one
    # that tries all the time does not keep out another (decision 25). A try that succeeds is given back. The same is done for an
    # address nobody has.
    class SignInTries
      CONNECTION = Core::Safety::Allowance.new(at_once: 20, every_seconds: 3)
      # OWASP ASVS 4.0.3, 2.2.1: no more than a hundred tries an hour on one account.
      ACCOUNT = Core::Safety::Allowance.new(at_once: 8, every_seconds: 40)
      # That somebody is slowed down is noted once in a while, not at each of their tries.
      NOTED = Core::Safety::Allowance.new(at_once: 1, every_seconds: 600)

      # @param login [String] the address, as accounts keep it
      # @param connection [String] the address it comes from
      # @param device [String, nil] nonce of a device from which this account has signed in
      def initialize(login:, connection:, device: nil)
        @from = Core::Safety::Connection.group(connection)
        @account = "account #{login} #{device ? "device #{device}" : "strangers"}"
        @wanted = {"connection #{@from}" => CONNECTION, @account => ACCOUNT}
        @noted = {"noted #{login} #{@from}" => NOTED}
      end

      # @return [Float] seconds to wait; 0.0 when this try may be made
      def take = Records::Allowances.take_in_turn(@wanted, scarce: @account, by: @from)

      # @return [Boolean] whether it is time to note that somebody is slowed down
      def to_be_noted? = Records::Allowances.take(@noted).zero?

      def give_back = Records::Allowances.give_back(@wanted)
    end
  end
end
