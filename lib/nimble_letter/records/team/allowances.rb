# frozen_string_literal: true

require "digest"

module NimbleLetter
  module Records
    # How much of what is limited has been used, shared by all processes and forgotten when it is all there again. By the
    # database's own clock.
    module Allowances
      FORGOTTEN_AT_ONCE = 1000
      # Who waits for something scarce may take it so long after their turn has come, and gets no turn that is further away.
      KEPT_SECONDS = 120
      LONGEST_SECONDS = 600

      # One that is locked.
      Held = Struct.new(:key, :allowance, :full_at, :now) do
        def wait = allowance.wait_seconds(full_at, now)

        def use = put(allowance.used(full_at, now))

        def give_back = put(allowance.given_back(full_at))

        private

        def put(full_at) = Records.db[:allowances].where(key: key).update(full_at: full_at)
      end
      private_constant :Held

      class << self
        # Takes one of each, or none.
        # @param wanted [Hash{String=>Core::Safety::Allowance}] by what is counted, e.g. "connection 192.0.2.7"
        # @return [Float] seconds to wait until it can be taken; 0.0 when it was taken
        def take(wanted)
          with_locked(wanted) do |held, _|
            wait = held.map(&:wait).max
            held.each(&:use) if wait.zero?
            wait
          end
        end

        # As #take, but those who have to wait for the scarce one have a turn from then on: nobody gets ahead of them by asking more often.
        # @param scarce [String] which of the wanted
        # @param by [String] who waits
        # @return [Float] seconds
        def take_in_turn(wanted, scarce:, by:)
          turn = key("turn #{scarce} #{by}")
          with_locked(wanted) do |held, now|
            rare, others = held.partition { |one| one.key == key(scarce) }.then { |(one), rest| [one, rest] }
            ends = dataset.where(key: turn).where { full_at > now }.get(:full_at)
            wait = [ends ? ends - KEPT_SECONDS - now : rare.wait, *others.map(&:wait), 0.0].max
            if wait.zero?
              (ends ? others : held).each(&:use)
              dataset.where(key: turn).delete
            elsif ends.nil? && rare.wait.between?(0.001, LONGEST_SECONDS)
              dataset.on_duplicate_key_update(:full_at).insert(key: turn, full_at: now + rare.wait + KEPT_SECONDS)
              rare.use # it is theirs
            end
            wait
          end
        end

        # Gives back what was taken and not needed.
        def give_back(wanted) = with_locked(wanted) { |held, _| held.each(&:give_back) }

        # @return [Integer] how many were all there again
        def forget_old = dataset.where { full_at < Sequel.function(:UTC_TIMESTAMP, 6) }.limit(FORGOTTEN_AT_ONCE).delete

        private

        def dataset = Records.db[:allowances]

        def key(what) = Digest::SHA256.hexdigest(what)[0, 32]

        # Always in the same order, so that two who want the same wait for each other instead of losing a race.
        def with_locked(wanted)
          keyed = wanted.transform_keys { |what| key(what) }
          Records.db.transaction do
            now = Records.server_time
            dataset.on_duplicate_key_update(full_at: :full_at).multi_insert(keyed.keys.sort.map { |key| {key: key, full_at: now} })
            rows = dataset.where(key: keyed.keys).order(:key).for_update.select_hash(:key, :full_at)
            yield(rows.map { |key, full_at| Held.new(key, keyed.fetch(key), full_at, now) }, now)
          end
        end
      end
    end
  end
end
