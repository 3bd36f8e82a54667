# frozen_string_literal: true

require "zlib"

module NimbleLetter
  module Records
    # Whether somebody may be written to follows from all records with their address and from the do-not-mail list. So what writes an
    # address or a "no" takes its turn first and keeps it until its transaction ends: of two at the same moment the second sees what the
    # first has said. Addresses share a fixed number of turns, by checksum; domains have turns of their own, since a whole domain can be
    # on the list.
    module AddressTurns
      ADDRESSES = 512 # turns 0 … 511; domains take 512 … 1023
      SLICE = 1000

      class << self
        # Of those who write records. Shared: several who only write addresses need not wait for each other, only for a "no".
        # @param folds [Array<String, nil>] addresses, folded
        def take(folds, shared: false)
          folds = folds.compact.uniq
          lock(turns(folds.map { |fold| Core::SameAddress.trunk(fold) }, 0), shared)
          lock(turns(folds.map { |fold| fold.split("@", 2).last.to_s }, ADDRESSES), true)
        end

        # Of those who put a domain on the list, or take it off.
        # @param domain [String] folded
        def take_domain(domain) = lock(turns([domain], ADDRESSES), false)

        # @param ids [Array<Integer>] people, whose addresses are meant
        def take_of(ids) = ids.each_slice(SLICE) { |some| take(Person.where(id: some).select_map(:email_fold)) }

        # Everybody waits.
        def take_all = lock((0...(2 * ADDRESSES)).to_a, false)

        private

        def turns(words, first) = words.map { |word| first + Zlib.crc32(word) % ADDRESSES }.uniq.sort

        # In one order, so that two who want the same ones do not wait for each other.
        def lock(turns, shared)
          raise ArgumentError, "A turn ends with its transaction; there is none." unless Records.db.in_transaction?
          return if turns.empty?

          rows = Records.db[:address_turns].where(turn: turns).order(:turn)
          held = (shared ? rows.lock_style("LOCK IN SHARE MODE") : rows.for_update).select_map(:turn)
          raise "Turns are missing in the table of turns." unless held == turns
        end
      end
    end
  end
end
