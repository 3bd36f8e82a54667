# frozen_string_literal: true

require "roda"
require "rodauth"
require "bcrypt"

module NimbleLetter
  module Web
    # Sign-in by Rodauth: hashing, lock-out after too many tries, sessions. Puts itself into env["rodauth"].
    class SignIn < Roda
      MAX_TRIES = 8
      LOCKED_MINUTES = 15

      plugin :middleware
      plugin :json_parser, content_type_regexp: %r{\Aapplication/json\b}i
      plugin :rodauth, json: :only, csrf: false do
        db { Records.db }
        enable :login, :logout, :lockout, :json
        prefix "/auth"
        hmac_secret { scope.env.fetch("nimble.secret") }
        already_logged_in { nil }
        domain { request.host }
        account_password_hash_column :password_hash
        login_param "email"
        max_invalid_logins MAX_TRIES
        account_lockouts_email_last_sent_column nil
        set_deadline_values? true
        account_lockouts_deadline_interval({minutes: LOCKED_MINUTES})
        unlock_account_route nil
        unlock_account_request_route nil
        # One sentence for a wrong address and a wrong password: it tells nobody who works here.
        login_error_flash "This address and password do not belong together."
        login_lockout_error_flash "Too many tries. This sign-in is locked for #{LOCKED_MINUTES} minutes."
        no_matching_login_message "This address and password do not belong together."
        invalid_password_message "This address and password do not belong together."
        login_return_to_requested_location? false
      end

      route do |r|
        r.on("auth") { r.rodauth }
        env["rodauth"] = rodauth
        nil
      end
    end
  end
end
