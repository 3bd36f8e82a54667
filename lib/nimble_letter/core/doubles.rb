# frozen_string_literal: true

module NimbleLetter
  module Core
    # When two records may be one human: the stated reasons, and a form of an address in which the usual ways of writing
    # one mailbox differently come to the same.
    module Doubles
      REASONS = {"address" => "the same address", "name" => "the same name and company", "phone" => "the same phone"}.freeze

      # Whatever follows a plus is a label of the same mailbox (RFC 5233).
      # @param address [String, nil]
      # @return [String, nil]
      def self.mailbox(address)
        local, domain = Fold.call(address)&.split("@", 2)
        return unless domain

        bare = local.split("+", 2).first.delete(".")
        bare.empty? ? "#{local}@#{domain}" : "#{bare}@#{domain}"
      end
    end
  end
end
