# frozen_string_literal: true

require "sinatra/base"
require "json"

module NimbleLetter
  module Web
    # The JSON API. Routes live in routes/, one file a resource; here is what they share: who asks, what was sent, and how
    # errors are told.
    class Api < Sinatra::Base
      STATUS = {Invalid => 422, NotFound => 404, Conflict => 409, Forbidden => 403}.freeze

      set :environment, :production
      set :show_exceptions, false
      set :raise_errors, false
      set :host_authorization, {permitted_hosts: []}
      disable :static, :sessions, :protection

      before do
        content_type :json
        cache_control :no_store
      end

      register Routes::Session
      register Routes::Sessions
      register Routes::Colleagues
      register Routes::Today
      register Routes::People
      register Routes::Companies
      register Routes::Deals
      register Routes::Imports
      register Routes::Doubles
      register Routes::Changes
      register Routes::Lists
      register Routes::Tags
      register Routes::Fields
      register Routes::Preferences
      register Routes::OwnWords
      register Routes::ClosedDays
      register Routes::Audience
      register Routes::Filters
      register Routes::Letters
      register Routes::Looking
      register Routes::Passages
      register Routes::Versions
      register Routes::Pictures
      register Routes::Look
      register Routes::Exchange # before /api/sequences/:id, which would take “starters” for a number
      register Routes::Sequences
      register Routes::Members
      register Routes::Joining
      register Routes::Planning
      register Routes::Proposals
      register Routes::Rehearsals
      register Routes::Tasks
      register Routes::Stack
      register Routes::Results
      register Routes::Deliveries
      register Routes::Replies
      register Routes::Post
      register Routes::Practice
      register Routes::PracticeLetters
      register Routes::Mailboxes
      register Routes::SetAside

      not_found { Problem.body(code: "not_found", message: "There is nothing here.") }

      error NimbleLetter::Error do |error|
        status STATUS.find { |kind, _| error.is_a?(kind) }&.last || 422
        Problem.body(code: error.code, message: error.message, at: error.at, hint: error.hint, data: error.data)
      end

      error Sequel::ValidationFailed do |error|
        status 422
        at, messages = error.errors.first
        Problem.body(code: "invalid", message: messages.first, at: at)
      end

      # For the whole request, see Mishaps.
      error(Rack::BadRequest, EncodingError, JSON::NestingError, SystemStackError) { |error| raise error }

      # For the whole request, see DatabaseTrouble.
      error(*Records::Patience::AWAY) { |error| raise error }

      error StandardError do |error|
        Log.error("a request failed", error)
        status 500
        Problem.body(**Mishaps.our_fault(env))
      end

      helpers do
        # @return [Records::Account, nil] who is signed in
        def account
          return @account if defined?(@account)

          @account = env["nimble.session"]&.account
        end

        # The clock is read once a request.
        def moment
          @moment ||=
            Work::Moment.new(
              now: settings.clock.now,
              account: account,
              lookups: settings.lookups,
              connection: request.env["REMOTE_ADDR"],
              fresh: env["rodauth"].password_recently_entered?
            )
        end

        # @return [Work::ReceiveImport] files that are brought in
        def receiving = @receiving ||= Work::ReceiveImport.new(settings.imports, moment)

        # @return [Hash] the body, names as symbols at the top only: conditions and documents keep theirs as text
        def input
          @input ||= JSON.parse(request.body.read.then { |text| text.empty? ? "{}" : text }).transform_keys(&:to_sym)
        rescue JSON::ParserError
          raise Invalid.new("This is not JSON.", code: :not_json)
        end

        def json(object, status_code = 200)
          status status_code
          Render.json(object)
        end

        def fetch_record(model, id, what) =
          model[Integer(id, exception: false)] ||
            raise(NotFound.new("This #{what} is not there.", hint: "Somebody may have taken it away."))
      end
    end
  end
end
