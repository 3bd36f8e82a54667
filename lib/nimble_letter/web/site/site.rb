# frozen_string_literal: true

require "rack"
require "rack/session"
require "rack/attack"
require "rack/protection"
require "committee"

module NimbleLetter
  module Web
    # The whole site as one Rack application: pages that letters lead to, sign-in, the API behind its contract, the screens.
    module Site
      SESSION_SECONDS = 12 * 3600

      # @param configuration [Configuration]
      # @param clock [#now] read once a request
      def self.app(configuration, clock:)
        public_pages = PublicSite.app(configuration, clock: clock)
        api = api(clock, configuration)
        secret = configuration.secret
        Throttle.set_up
        Rack::Builder.app do
          use Headers
          use DatabaseTrouble
          use Rack::Attack
          map("/o") { run Unmapped.new(public_pages) }
          map("/c") { run Unmapped.new(public_pages) }
          map("/u") { run Unmapped.new(public_pages) }
          map("/p") { run Unmapped.new(public_pages) }
          map "/" do
            use Rack::Session::Cookie, key: "nimble", secret: secret, same_site: :lax, httponly: true, expire_after: SESSION_SECONDS
            use Rack::Protection::AuthenticityToken
            use Secret, secret
            use SignIn
            use Committee::Middleware::RequestValidation,
              schema: Contract.schema,
              error_class: ContractProblem,
              strict: false,
              coerce_date_times: false,
              parse_response_by_content_type: true,
              query_hash_key: "rack.request.query_hash"
            use Screens
            run api
          end
        end
      end

      # @return [#call] what answers while the records have not been reached yet
      def self.waiting = Headers.new(->(_env) { DatabaseTrouble.away })

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
