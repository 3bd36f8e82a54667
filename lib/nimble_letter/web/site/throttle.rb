# frozen_string_literal: true

module NimbleLetter
  module Web
    # Limits how often one connection may call the pages that letters lead to. How often somebody may try to sign in is
    # limited where that is done, see Work::SignInTries.
    class Throttle
      # Pictures are not counted: one mail proxy fetches them for many readers.
      PATHS = %r{\A/[ocu]/}
      PAGES = Core::Safety::Allowance.new(at_once: 300, every_seconds: 0.2)

      # @return [Array] the Rack answer to whoever must wait
      def self.wait(seconds)
        seconds = seconds.ceil
        status, headers, body = Problem.response(
          429,
          code: "too_often",
          message: "Too many tries in a short time.",
          hint: "Wait #{words(seconds)}, then try again.",
          data: {wait_seconds: seconds}
        )
        [status, headers.merge("retry-after" => seconds.to_s, "cache-control" => "no-store"), body]
      end

      def self.words(seconds) = (seconds <= 90) ? "#{seconds} seconds" : "#{(seconds / 60.0).ceil} minutes"
      private_class_method :words

      def initialize(app) = @app = app

      def call(env)
        connection = env["REMOTE_ADDR"]
        # The practice characters all live on this machine.
        if env["PATH_INFO"].squeeze("/").match?(PATHS) && !Core::Safety::Connection.loopback?(connection)
          wait = Records::Allowances.take("pages #{Core::Safety::Connection.group(connection)}" => PAGES)
          return self.class.wait(wait) if wait.positive?
        end
        @app.call(env)
      end
    end
  end
end
