# frozen_string_literal: true

require "rack/attack"

module NimbleLetter
  module Web
    # Limits how often one address may try to sign in or call the public pages.
    module Throttle
      SIGN_INS_A_MINUTE = 20
      PAGES_A_MINUTE = 300
      LOOPBACK = %w[127.0.0.1 ::1].freeze

      # Counts in this process; rack-attack asks for these calls.
      class Counts
        def initialize
          @counts, @lock = {}, Mutex.new
        end

        def increment(key, amount, expires_in:)
          @lock.synchronize do
            @counts.clear if @counts.size > 50_000
            @counts[key] = @counts.fetch(key, 0) + amount
          end
        end

        def read(key) = @counts[key]

        def write(key, value, **) = @counts[key] = value

        def delete(key) = @counts.delete(key)
      end

      # rack-attack keeps its rules in one place for the process.
      def self.set_up
        Rack::Attack.cache.store = Counts.new
        Rack::Attack.throttle("sign-in", limit: SIGN_INS_A_MINUTE, period: 60) { |request| request.ip if request.path == "/auth/login" }
        # The practice characters all live on this machine.
        Rack::Attack.throttle("letter pages", limit: PAGES_A_MINUTE, period: 60) do |request|
          request.ip if request.path.match?(PublicSite::PATHS) && !LOOPBACK.include?(request.ip)
        end
        Rack::Attack.throttled_responder = lambda do |_request|
          Problem.response(429, code: "too_often", message: "Too many tries in a short time.", hint: "Wait a minute, then try again.")
        end
      end
    end
  end
end
