# frozen_string_literal: true

require "zxcvbn"

module NimbleLetter
  module Core
    module Safety
      # Whether a password would be guessed soon, by the measure of zxcvbn (Wheeler, USENIX Security 2016): common passwords, names, rows
      # of keys, dates, and words that anybody knows of the person who chooses it. OWASP ASVS 4.0.3, 2.1.1 and 2.1.7.
      class PasswordChoice
        LEAST = 12
        TOO_SHORT = "A password has at least #{LEAST} characters."
        # zxcvbn takes longer than one can wait for some long ones; whose beginning holds is good.
        LOOKED_AT = 32
        # Of 0 to 4: "safely unguessable", at least 10^8 guesses.
        ENOUGH = 3
        OWN = "user_inputs"
        MORE = "Add a word or two that have nothing to do with it."

        # Its word lists are read once, when somebody first chooses a password.
        def self.tester = @tester ||= Zxcvbn::Tester.new

        # @param known [Array<String, nil>] names and addresses: of the person, the firm and the product
        def initialize(known)
          whole = known.compact.flat_map { |one| [one, one.gsub(/[^\p{L}\p{N}]/, "")] }
          parts = known.compact.flat_map { |one| one.split(/[^\p{L}\p{N}]+/) }
          @known = [*whole, *parts].map(&:downcase).select { |one| one.size > 2 }.uniq
        end

        # @return [String, nil] what is wrong with it, in words; nil: nothing
        def fault(password)
          return TOO_SHORT if password.size < LEAST

          found = self.class.tester.zxcvbn(password[0, LOOKED_AT], @known)
          return if found["score"] >= ENOUGH

          "#{why(found)}. #{MORE}"
        end

        private

        def why(found)
          own = found["sequence"].find { |part| part["dictionary_name"] == OWN }
          return "“#{own["token"]}” is known to everybody who knows you or the firm" if own

          warning = found["feedback"]["warning"].to_s
          warning.empty? ? "This would be guessed soon" : warning
        end
      end
    end
  end
end
