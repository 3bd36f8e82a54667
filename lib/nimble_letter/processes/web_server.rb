# frozen_string_literal: true

require "puma"
require "puma/server"

module NimbleLetter
  module Processes
    # The web server: API, pages that letters lead to, and the screens. It answers from the beginning, with "not just now" as
    # long as the database is away.
    class WebServer
      # Puma bounds what a request says it brings, but gathers what comes in pieces without end.
      module BoundedPieces
        private

        def write_chunk(piece)
          super.tap do |bytes|
            raise Puma::HttpParserError, "More than is taken" if bytes > Web::BodyLimit::MOST_BYTES
          end
        end
      end
      Puma::Client.prepend(BoundedPieces)

      # Puma gathers what a request brings before it asks anybody; what can be refused by its head alone is refused here.
      module HeadFirst
        class << self
          attr_accessor :first_look
        end

        private

        def setup_body
          @refusal = HeadFirst.first_look&.refusal(@env)
          return super unless @refusal

          @error_status_code = @refusal.first
          @env["HTTP_CONNECTION"] = "close"
          raise Puma::HttpParserError, "refused by its head"
        end
      end
      Puma::Client.prepend(HeadFirst)

      # Gives that refusal as the answer, also to those who are still sending.
      module RefusalFirst
        LINGERING = Lingering.new

        private

        def response_to_error(client, requests, error, status)
          refusal = client.instance_variable_get(:@refusal) or return super
          prepare_response(*refusal, requests, client)
          LINGERING.take(client.io)
        end
      end
      Puma::Server.prepend(RefusalFirst)

      # Ruby runs one thread at a time, and each that waits for the database then waits for the others: with 20 busy users
      # eight threads gave fewer answers than four, and made some wait 3 s (bench/README.md).
      THREADS = 4
      # A connection that is kept open gives its thread to whoever waits after each answer, instead of after ten.
      ANSWERS_IN_A_ROW = 1

      def initialize(configuration)
        @configuration = configuration
        @site = Web::Site.waiting
      end

      # Serves until told to end.
      def run
        Signals.listen
        Ports.free!(@configuration.port, "PORT", "the web server")
        HeadFirst.first_look = Web::FirstLook.new(@configuration)
        server = puma
        server.add_tcp_listener("127.0.0.1", @configuration.port)
        server.run
        if Part.begin(@configuration)
          @site = Web::Site.app(@configuration, clock: Practice::Clock.new)
          Signals.wait
        end
        server.stop(true)
      end

      private

      def puma
        Puma::Server.new(
          ->(env) { @site.call(env) },
          nil,
          min_threads: 2,
          max_threads: THREADS,
          max_fast_inline: ANSWERS_IN_A_ROW,
          http_content_length_limit: Web::BodyLimit::MOST_BYTES,
          lowlevel_error_handler: ->(_error, _env, status) { Web::Mishaps.unreadable(status) },
          log_writer: Puma::LogWriter.strings
        )
      end
    end
  end
end
