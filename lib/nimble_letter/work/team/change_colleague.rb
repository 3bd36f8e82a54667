# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes a colleague an admin or takes that from them, and closes or opens their sign-in. Closing it ends at once wherever
    # they are signed in. There is always an admin left who can sign in, and nobody does it to themselves.
    module ChangeColleague
      # @param account [Records::Account]
      # @param role [String, nil] one of Records::Account::ROLES
      # @param closed [Boolean, nil]
      # @raise [Invalid]
      # @raise [Forbidden] unless an admin asks, with a password given lately
      # @return [Records::Account]
      def self.call(account, moment:, role: nil, closed: nil)
        moment.admin!
        if account.id == moment.account&.id
          raise Invalid.new("Another admin has to change your own sign-in.", code: :yourself, at: "role")
        end

        moment.fresh!
        Records.db.transaction do
          # One after the other, so that two admins cannot take it from each other at the same time.
          Records::Account.where(role: "admin").order(:id).for_update.all
          account.lock!
          changed = {role: role, status_id: closed.nil? ? nil : status(closed)}.compact.reject { |name, value| account[name] == value }
          next if changed.empty?

          account.update(changed)
          nobody_left! if Records::Account.able_to_sign_in.where(role: "admin").exclude(email: nil).empty?
          Records::Session.where(account_id: account.id).delete unless account.open?
          moment.note("colleague_changed", about: "#{account.name}: #{words(changed)}", data: {account_id: account.id})
        end
        account
      end

      def self.status(closed) = closed ? Records::Account::CLOSED : Records::Account::OPEN
      private_class_method :status

      def self.nobody_left! = raise(Invalid.new("Nobody would be left who is an admin.", code: :last_admin, at: "role"))
      private_class_method :nobody_left!

      def self.words(changed)
        [changed[:role]&.then { |role| "is now #{(role == "admin") ? "an admin" : "a colleague"}" },
          changed[:status_id]&.then { |status| "sign-in #{(status == Records::Account::OPEN) ? "opened" : "closed"}" }].compact.join(", ")
      end
      private_class_method :words
    end
  end
end
