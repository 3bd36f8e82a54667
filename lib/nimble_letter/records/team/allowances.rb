# frozen_string_literal: true

require "digest"

module NimbleLetter
  module Records
    # How much of what is limited has been used, shared by all processes and forgotten when it is all there again. By the
    # database's own clock.
    module Allowances
      FORGOTTEN_AT_ONCE = 1000

      class << self
        # Takes one of each, or none.
        # @param wanted [Hash{String=>Core::Safety::Allowance}] by what is counted, e.g. "connection 192.0.2.7"
        # @return [Float] seconds to wait until it can be taken; 0.0 when it was taken
        def take(wanted)
          with_locked(wanted) do |rows, now|
            wait = rows.map { |_, allowance, full_at| allowance.wait_seconds(full_at, now) }.max
            rows.each { |key, allowance, full_at| put(key, allowance.used(full_at, now)) } if wait.zero?
            wait
          end
        end

        # Gives back what was taken and not needed.
        def give_back(wanted)
          with_locked(wanted) { |rows, _| rows.each { |key, allowance, full_at| put(key, allowance.given_back(full_at)) } }
        end

        # @return [Integer] how many were all there again
        def forget_old = dataset.where { full_at < Sequel.function(:UTC_TIMESTAMP, 6) }.limit(FORGOTTEN_AT_ONCE).delete

        private

        def dataset = Records.db[:allowances]

        def put(key, full_at) = dataset.where(key: key).update(full_at: full_at)

        # Always in the same order, so that two who want the same wait for each other instead of losing a race.
        def with_locked(wanted)
          keyed = wanted.to_h { |what, allowance| [Digest::SHA256.hexdigest(what)[0, 32], allowance] }
          Records.db.transaction do
            now = Records.server_time
            dataset.on_duplicate_key_update(full_at: :full_at).multi_insert(keyed.keys.sort.map { |key| {key: key, full_at: now} })
            held = dataset.where(key: keyed.keys).order(:key).for_update.select_hash(:key, :full_at)
            yield(held.map { |key, full_at| [key, keyed.fetch(key), full_at] }, now)
          end
        end
      end
    end
  end
end
