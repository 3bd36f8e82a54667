# frozen_string_literal: true

require "bcrypt"
require "securerandom"

module NimbleLetter
  module Work
    # A mailbox is proved by a code that is sent to it: who reads it there may write from it. The code is kept as a hash and is good
    # for an hour by the wall clock. A new code gives no new tries: they are counted for the mailbox. Codes and wrong tries are in the
    # safety log.
    module ProveMailbox
      DIGITS = 6
      SECONDS = 3600
      # At most five codes in any hour.
      CODES = Core::Safety::Allowance.new(at_once: 3, every_seconds: 1500)
      # At most twenty in any hour: with six digits, one of 50,000 is guessed.
      TRIES = Core::Safety::Allowance.new(at_once: 10, every_seconds: 360)

      # @param box [Records::Mailbox]
      # @raise [Forbidden] unless it is the colleague's own, or an admin asks
      def self.send_code(box, moment:)
        allowed!(box, moment)
        limited!(CODES, "codes for mailbox #{box.id}", "Five codes an hour are sent to one mailbox.")
        code = SecureRandom.random_number(10**DIGITS).to_s.rjust(DIGITS, "0")
        Records.db.transaction do
          box.lock!
          raise Invalid.new("#{box.address} is retired.", code: :retired) if box.retired_at

          box.update(code_digest: BCrypt::Password.create(code), code_sent_at: Records.server_time)
          Records::Notice.where(mailbox_id: box.id).delete
          words = "The code for #{box.address} is #{code}.\n\nEnter it under Settings within an hour.\n" \
                  "If nobody of you has asked for it, you need not do anything.\n"
          Records::Notice.create(mailbox_id: box.id, address: box.address, made_at: moment.now, text: words,
            subject: "Your code for #{moment.firm.name}")
        end
        moment.note("code_sent", about: box.address)
        box
      end

      # @param code [String]
      # @return [Records::Mailbox] proved
      # @raise [Invalid] when it is another, too old, or tried too often
      def self.enter(box, code, moment:)
        allowed!(box, moment)
        digest = good_digest(box)
        # Counted before the code is looked at, so that two at once are two.
        limited!(TRIES, tries(box), "Too many codes were tried for this mailbox.", at: "code")
        unless BCrypt::Password.new(digest) == code.to_s.strip
          moment.note("code_refused", about: box.address)
          raise Invalid.new("This is another code.", code: :wrong_code, at: "code", hint: "Look at the newest mail with a code.")
        end

        Records::Allowances.give_back(tries(box) => TRIES)
        moment.note("setting_changed", about: "#{box.address} is proved")
        box.update(proved_at: moment.now, code_digest: nil)
      end

      # @param account [Records::Account]
      # @return [Sequel::Dataset] mailboxes whose codes they may read
      def self.provable_by(account) = account.admin? ? Records::Mailbox.dataset : Records::Mailbox.where(account_id: account.id)

      def self.good_digest(box)
        over = box.code_digest.nil? || box.code_sent_at < Records.server_time - SECONDS
        raise Invalid.new("There is no code that is still good.", code: :no_code, at: "code", hint: "Have a new one sent.") if over

        box.code_digest
      end
      private_class_method :good_digest

      def self.tries(box) = "code tries for mailbox #{box.id}"
      private_class_method :tries

      def self.limited!(allowance, what, words, at: nil)
        wait = Records::Allowances.take(what => allowance)
        return if wait.zero?

        raise Invalid.new(words, code: :too_often, at: at, hint: "Try again in #{(wait / 60).ceil} minutes.")
      end
      private_class_method :limited!

      def self.allowed!(box, moment) = (box.account_id && box.account_id == moment.account&.id) || moment.admin!
      private_class_method :allowed!
    end
  end
end
