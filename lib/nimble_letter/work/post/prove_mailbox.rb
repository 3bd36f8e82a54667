# frozen_string_literal: true

require "bcrypt"
require "securerandom"

module NimbleLetter
  module Work
    # A mailbox is proved by a code that is sent to it: whoever reads it there may write from it. The code is kept as a hash, is good for
    # an hour by the wall clock, and for ten tries.
    module ProveMailbox
      DIGITS = 6
      TRIES = 10
      SECONDS = 3600

      # @param box [Records::Mailbox]
      # @raise [Forbidden] unless it is the colleague's own, or an admin asks
      def self.send_code(box, moment:)
        allowed!(box, moment)
        code = SecureRandom.random_number(10**DIGITS).to_s.rjust(DIGITS, "0")
        Records.db.transaction do
          box.lock!
          raise Invalid.new("#{box.address} is retired.", code: :retired) if box.retired_at

          box.update(code_digest: BCrypt::Password.create(code), code_sent_at: Records.server_time, code_tries: 0)
          Records::Notice.where(mailbox_id: box.id).delete
          words = "The code for #{box.address} is #{code}.\n\nEnter it under Settings within an hour.\n" \
                  "If nobody of you has asked for it, you need not do anything.\n"
          Records::Notice.create(mailbox_id: box.id, address: box.address, made_at: moment.now, text: words,
            subject: "Your code for #{moment.firm.name}")
        end
        box
      end

      # @param code [String]
      # @return [Records::Mailbox] proved
      # @raise [Invalid] when it is another, too old, or tried too often
      def self.enter(box, code, moment:)
        allowed!(box, moment)
        digest = try(box)
        unless BCrypt::Password.new(digest) == code.to_s.strip
          left = TRIES - box.code_tries
          hint = "You can try #{left} times more, or have a new one sent."
          raise Invalid.new("This is another code.", code: :wrong_code, at: "code", hint: hint)
        end

        moment.note("setting_changed", about: "#{box.address} is proved")
        box.update(proved_at: moment.now, code_digest: nil, code_tries: 0)
      end

      # Counts the try before the code is looked at, so that two at once are two.
      # @return [String] the digest
      def self.try(box)
        Records.db.transaction do
          box.lock!
          over = box.code_digest.nil? || box.code_tries >= TRIES || box.code_sent_at < Records.server_time - SECONDS
          raise Invalid.new("There is no code that is still good.", code: :no_code, at: "code", hint: "Have a new one sent.") if over

          box.update(code_tries: box.code_tries + 1)
          box.code_digest
        end
      end
      private_class_method :try

      def self.allowed!(box, moment) = (box.account_id && box.account_id == moment.account&.id) || moment.admin!
      private_class_method :allowed!
    end
  end
end
