# frozen_string_literal: true

module NimbleLetter
  module Work
    # Notes what matters to safety: who did it, from where, and what it was about. Never a password or a token.
    module SafetyNote
      KINDS = %w[
        signed_in
        sign_in_refused
        slowed_down
        signed_out
        session_ended
        password_changed
        password_refused
        exported
        sequence_started
        people_joined
        colleague_made
        colleague_changed
        setting_changed
        code_sent
        code_refused
        refused
      ].freeze
      LONGEST = {who: 190, about: 300}.freeze

      # @param kind [String] one of KINDS
      # @param who [Records::Account, String, nil] or the address that somebody tried
      # @param connection [String, nil]
      # @param about [String, nil] in plain words
      # @param data [Hash, nil] numbers and names to look things up by
      def self.write(kind, who: nil, connection: nil, about: nil, data: nil)
        raise ArgumentError, "no kind of note: #{kind}" unless KINDS.include?(kind)

        account = who if who.is_a?(Records::Account)
        name = account ? account.name : who
        Records::SafetyLog.add(
          kind: kind,
          account_id: account&.id,
          who: name&.scrub("")&.slice(0, LONGEST[:who]),
          connection: connection&.slice(0, 45),
          about: about&.scrub("")&.slice(0, LONGEST[:about]),
          data: data
        )
      end
    end
  end
end
