# frozen_string_literal: true

require "rack"
require "rack/session"
require "rack/protection"
require "committee"

module NimbleLetter
  module Web
    # The whole site as one Rack application: pages that letters lead to, sign-in, the API behind its contract, the screens.
    # What is refused is refused as early as can be: what is no text, comes to a strange name, or is too large; then whoever
    # is not signed in; then what the contract does not know.
    module Site
      # @param configuration [Configuration]
      # @param clock [#now] read once a request
      def self.app(configuration, clock:)
        Rack::Builder.app do
          Site.front(self, configuration)
          run Site.behind(configuration, clock)
        end
      end

      # @return [#call] what answers while the records have not been reached yet
      def self.waiting = Headers.new(->(_env) { DatabaseTrouble.away })

      # What every request passes, whatever it asks for.
      def self.front(builder, configuration)
        builder.use Headers
        builder.use RequestId
        builder.use Mishaps
        builder.use Proxy, configuration.proxies
        builder.use WellFormed
        builder.use Hosts, permitted_hosts: configuration.hosts + Hosts::LOOPBACK
        builder.use Tls, configuration.public_url if configuration.tls?
        builder.use BodyLimit
        builder.use DatabaseTrouble
        builder.use Throttle
      end

      def self.behind(configuration, clock)
        public_pages = PublicSite.app(configuration, clock: clock)
        signed_in = signed_in(configuration, clock)
        bell = Bell.new(configuration.bells)
        Rack::Builder.app do
          %w[/o /c /u /p].each { |path| map(path) { run Rings.new(Unmapped.new(public_pages), bell, reading_too: true) } }
          map("/") { run Rings.new(Screens.new(signed_in), bell) }
        end
      end

      def self.signed_in(configuration, clock)
        api = api(clock, configuration)
        safety = Safety.new(configuration)
        Rack::Builder.app do
          use Rack::Session::Cookie,
            key: safety.cookie,
            secret: safety.secret,
            same_site: :lax,
            httponly: true,
            secure: safety.tls?,
            path: "/",
            expire_after: Records::Session::LONGEST_SECONDS
          use CsrfToken
          use Safety::Along, safety
          use SignIn
          use SignedInOnly
          use Committee::Middleware::RequestValidation,
            schema: Contract.schema,
            error_class: ContractProblem,
            strict: false,
            coerce_date_times: false,
            parse_response_by_content_type: true,
            query_hash_key: "rack.request.query_hash"
          run api
        end
      end
      private_class_method :signed_in

      def self.api(clock, configuration)
        Class.new(Api) do
          set :clock, clock
          set :imports, configuration.imports
          set :public_url, configuration.public_url
          set :parts_state, Work::PartsState.new(configuration.parts_state)
          set :lookups, Lookups::HttpAdapter.new(configuration.lookup_url)
        end
      end
      private_class_method :api
    end
  end
end
