# frozen_string_literal: true

require "bcrypt"
require "json"

module NimbleLetter
  module Demo
    # Tern & Fallow Acoustics: four people who quiet rooms. Makes the firm and its colleagues.
    module Firm
      NAME = "Tern & Fallow Acoustics"
      PASSWORD = "quiet-rooms-2026"
      TEAM = [["Maren Holt", "maren", "admin", "01632 960 101"], ["Idris Vale", "idris", "colleague", "01632 960 118"],
        ["Petra Lund", "petra", "colleague", "01632 960 124"], ["Tomas Quill", "tomas", "colleague", "01632 960 137"]].freeze

      KEY = "demo_sign_in"

      # What the sign-in page offers: only where a demo was built, and only as long as it is true.
      # @return [Hash, nil] email, password
      def self.sign_in
        email = Records.db[:settings].where(key: KEY).get(:value)
        email && {email: JSON.parse(email), password: PASSWORD}
      end

      # Somebody chose a password of their own.
      def self.forget_sign_in(email) = Records.db[:settings].where(key: KEY, value: JSON.generate(email)).delete

      # @return [Records::Account] Maren
      def self.make(now:)
        Records::Firm.save(name: NAME, postal_address: "4 Felt Yard, York YO1 0QX", time_zone: "Europe/London", holidays_of: "gb_eng")
        hash = BCrypt::Password.create(PASSWORD).to_s
        TEAM.each do |name, local, role, phone|
          account =
            Records::Account.create(
              email: "#{local}@ternandfallow.example",
              name: name,
              role: role,
              phone: phone,
              password_hash: hash,
              created_at: now
            )
          # A small firm keeps its own mail free: a large letter takes several days. Tomas has not proved his address yet.
          Records::Mailbox.create(
            address: account.email,
            name: "#{name}, Tern & Fallow",
            account_id: account.id,
            daily_limit: 30,
            proved_at: (now unless local == "tomas")
          )
        end
        Records::Mailbox.create(address: "hello@ternandfallow.example", name: "Tern & Fallow Acoustics", daily_limit: 150, proved_at: now)
        maren = Records::Account.order(:id).first
        Records.db[:settings].insert(key: KEY, value: JSON.generate(maren.email))
        maren
      end
    end
  end
end
