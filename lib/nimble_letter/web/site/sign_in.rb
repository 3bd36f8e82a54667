# frozen_string_literal: true

require "roda"
require "rodauth"
require "bcrypt"
require "securerandom"

module NimbleLetter
  module Web
    # Sign-in by Rodauth: hashing, sessions that end, the change of a password. Puts itself into env["rodauth"], with nobody
    # in it when the session has ended or the account is closed.
    class SignIn < Roda
      # A sensitive act asks for the password again after so long, see Work::Moment#fresh!.
      FRESH_SECONDS = 3600
      MOST_BYTES = 72 # bcrypt reads no further
      # One sentence for a wrong address, a wrong password and a closed account: it tells nobody who works here.
      NOT_TOGETHER = "This address and password do not belong together."
      DEVICE_SECONDS = 365 * 24 * 3600

      plugin :middleware
      plugin :halt
      plugin :json_parser,
        content_type_regexp: %r{\Aapplication/json\b}i,
        wrap: :unless_hash,
        error_handler: ->(r) { r.halt SignIn.not_json }
      plugin :rodauth, json: :only, csrf: false do
        db { Records.db }
        enable :login,
          :logout,
          :active_sessions,
          :change_password,
          :confirm_password,
          :password_grace_period,
          :json
        prefix "/auth"
        hmac_secret { scope.env.fetch("nimble.safety").secret }
        already_logged_in { nil }
        skip_status_checks? false
        domain { request.host }
        account_password_hash_column :password_hash
        login_param "email"
        password_param "password"
        new_password_param "new_password"
        require_password_confirmation? false
        password_minimum_length Core::Safety::PasswordChoice::LEAST
        password_maximum_bytes MOST_BYTES
        password_grace_period FRESH_SECONDS
        modifications_require_password? true
        login_return_to_requested_location? false

        normalize_login { |login| login.scrub("").strip.downcase[0, 190] }
        auth_class_eval do
          def _account_from_login(login) = scope.account_of(login)

          def password_meets_requirements?(password)
            return false unless super

            fault = scope.choice_of(account).fault(password) or return true
            set_password_requirement_error_message(:password_guessed_soon, fault)
            false
          end
        end

        login_error_flash NOT_TOGETHER
        no_matching_login_message NOT_TOGETHER
        invalid_password_message { request.path.end_with?("/login") ? NOT_TOGETHER : "This is not your password." }
        change_password_error_flash "The password stays as it was."
        confirm_password_error_flash "This is not your password."
        same_as_existing_password_message "This is the password you have now."
        password_too_short_message Core::Safety::PasswordChoice::TOO_SHORT
        password_too_many_bytes_message "A password has at most #{MOST_BYTES} letters; letters with accents count twice."
        contains_null_byte_message "A password is text."
        password_does_not_meet_requirements_message { password_requirement_message || "Choose another password." }

        password_hash_cost { BCrypt::Engine.cost }

        before_login_route { scope.slow_down(login_param_value) if request.post? }
        before_change_password_route { scope.slow_down(account[:email]) if request.post? }
        before_confirm_password_route { scope.slow_down(account[:email]) if request.post? }

        # The same work as for an address that somebody has.
        after_no_matching_login do
          password_hash_match?(SignIn.nobody, param(password_param))
          scope.note_try("sign_in_refused", login_param_value)
        end
        after_login_failure do
          password_hash_match?(SignIn.nobody, param(password_param)) unless get_password_hash
          scope.note_try("sign_in_refused", login_param_value)
        end
        after_login do
          scope.tries.give_back
          scope.know_device(account_id)
          scope.note("signed_in", Records::Account[account_id])
        end
        before_logout do
          scope.note("signed_out", Records::Account[session_value]) if session_value
          super()
        end
        after_change_password do
          # A copy of the cookie that somebody kept ends too.
          update_session
          scope.tries.give_back
          scope.note("password_changed", Records::Account[account_id])
          Demo::Firm.forget_sign_in(account[:email])
        end
        after_confirm_password { scope.tries.give_back }
        set_error_reason { |reason| scope.note("password_refused", Records::Account[session_value]) if scope.guessed?(reason) }

        active_sessions_insert_hash do
          super().merge(agent: Core::Safety::Agent.words(request.user_agent), connection: request.env["REMOTE_ADDR"])
        end
        json_response_body { |answer| scope.told(answer, response.status) }
      end

      # Made anew each time: the session writes its cookie into the headers of an answer.
      # @return [Array]
      def self.not_json = Problem.response(400, code: "not_json", message: "This is not JSON.")

      # The hash of a password nobody has, as costly as the others.
      def self.nobody = @nobody ||= BCrypt::Password.create(SecureRandom.hex(32), cost: BCrypt::Engine.cost).to_s

      route do |r|
        rodauth.clear_session if rodauth.logged_in? && !current_session
        r.on("auth") do
          r.halt(SignIn.not_json) unless request.media_type == "application/json"
          r.rodauth
        end
        env["rodauth"] = rodauth
        env["nimble.session"] = current_session
        nil
      end

      # @return [Records::Session, nil]
      def current_session
        return @current_session if defined?(@current_session)

        key = rodauth.session[rodauth.session_id_session_key]
        @current_session =
          rodauth.session_value && key &&
          Records::Session.of(
            rodauth.session_value,
            rodauth.compute_hmac(key),
            idle_seconds: safety.idle_seconds,
            by_person: !env.key?("HTTP_X_BY_ITSELF")
          )
      end

      # @param login [String] as it was typed, in small letters
      # @return [Hash, nil] the open account of exactly this address; the database would take é for e
      def account_of(login)
        account = Records::Account.able_to_sign_in.where(email: login).naked.first
        account if account && account[:email].downcase == login
      end

      # @param account [Hash]
      # @return [Core::Safety::PasswordChoice]
      def choice_of(account)
        Core::Safety::PasswordChoice.new([account[:email], account[:name], Records::Firm.current.name, "Nimble Letter"])
      end

      def slow_down(login)
        account = account_of(login.downcase)
        @tries = Work::SignInTries.new(
          login: login.downcase,
          connection: env["REMOTE_ADDR"],
          device: account && known_device.nonce(request.cookies[safety.cookie("device")], account[:id])
        )
        wait = @tries.take
        return if wait.zero?

        note_try("slowed_down", login) if @tries.to_be_noted?
        request.halt Throttle.wait(wait)
      end

      # Whether somebody who is signed in did not know the password of this account.
      def guessed?(reason) = rodauth.session_value && %i[invalid_password invalid_previous_password].include?(reason)

      attr_reader :tries

      def know_device(account_id)
        name = safety.cookie("device")
        return if known_device.nonce(request.cookies[name], account_id)

        Rack::Utils.set_cookie_header!(
          response.headers,
          name,
          value: known_device.write(account_id, SecureRandom.hex(16)),
          path: "/",
          max_age: DEVICE_SECONDS,
          httponly: true,
          same_site: :lax,
          secure: safety.tls?
        )
      end

      def note(kind, who, **rest) = Work::SafetyNote.write(kind, who: who, connection: env["REMOTE_ADDR"], **rest)

      # What was typed for an address may be a password: it is noted only where it looks like an address.
      def note_try(kind, login) = note(kind, Core::Address::PATTERN.match?(login.scrub("").strip) ? login : "no address")

      # @param answer [Hash] as Rodauth has it
      # @return [String] JSON, errors as the API tells them
      def told(answer, status)
        return JSON.generate({}) if status.to_i < 400

        at, message = answer["field-error"]
        at = nil if request.path.end_with?("/login") # which of the two was wrong is not told
        Problem.body(code: CODES.fetch(status, "refused"), message: message || answer["error"], at: at)
      end

      CODES = {401 => "not_together", 422 => "invalid", 403 => "not_allowed"}.freeze
      private_constant :CODES

      private

      def safety = env.fetch("nimble.safety")

      def known_device = Core::Safety::KnownDevice.new(safety.secret)
    end
  end
end
