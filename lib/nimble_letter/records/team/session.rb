# frozen_string_literal: true

module NimbleLetter
  module Records
    # Somebody's being signed in, in one browser. It ends when they sign out, when nothing has been done in it for a while,
    # and after a day's work in any case. By the database's own clock.
    class Session < Sequel::Model(:account_active_session_keys)
      LONGEST_SECONDS = 12 * 3600
      # A look at the clock of each request need not be a write.
      NOTED_EVERY_SECONDS = 60

      many_to_one :account

      dataset_module do
        # @param idle_seconds [Integer]
        def alive(idle_seconds)
          now = Sequel.function(:UTC_TIMESTAMP, 6)
          where(Sequel[:last_use] > Sequel.date_sub(now, seconds: idle_seconds))
            .where(Sequel[:account_active_session_keys][:created_at] > Sequel.date_sub(now, seconds: LONGEST_SECONDS))
        end

        def of_open_accounts = where(account_id: Account.able_to_sign_in.select(:id))

        def newest_first = order(Sequel.desc(:last_use), Sequel.desc(:id))
      end

      # @param key [String] as the database keeps it
      # @param by_person [Boolean] false for what a page asks by itself: it keeps nobody signed in
      # @return [Session, nil]
      def self.of(account_id, key, idle_seconds:, by_person:)
        session = alive(idle_seconds).of_open_accounts.first(account_id: account_id, session_id: key) or return
        session.note_use if by_person
        session
      end

      # @return [Integer] how many had ended and are forgotten
      def self.forget_ended(idle_seconds) = exclude(id: alive(idle_seconds).select(:id).from_self).delete

      def note_use
        now = Records.server_time
        this.update(last_use: now) if now - last_use > NOTED_EVERY_SECONDS
      end
    end
  end
end
