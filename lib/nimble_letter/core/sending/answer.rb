# frozen_string_literal: true

module NimbleLetter
  module Core
    module Sending
      # What a mail server said (RFC 5321 4.2), at which point of handing a letter over, and whom it is about. Only an answer
      # that says so is about the address; a refused sender, a policy or a full mailbox never is.
      class Answer
        # Up to where the talk had come: greeting, hello, sender (MAIL), recipient (RCPT), text (DATA), end (the final dot);
        # report is an answer told in a delivery report (RFC 3464).
        STAGES = %i[greeting hello sender recipient text end report].freeze
        # Where a server can know the address. The end counts because every letter of ours has one recipient.
        KNOWS_ADDRESS = %i[recipient end report].freeze
        # Whom greeting, hello and sender turn away is us: such a refusal is about every letter, and may be over tomorrow.
        ABOUT_US = %i[greeting hello sender].freeze
        # RFC 3463 3.2: mailbox, system or syntax of the destination, moved; RFC 7505 4: nobody takes mail there. 5.1.7 and
        # 5.1.8 are about the sender.
        ADDRESS = %w[5.1.1 5.1.2 5.1.3 5.1.6 5.1.10].freeze
        # RFC 3463 3.2 and 3.3: these say nothing by themselves, so the words are read.
        SAYS_NOTHING = /\A5\.(0\.\d+|1\.0)\z/
        # RFC 3463 3.3: a mailbox that is full today is not full for ever.
        FULL = /\A[45]\.2\.2\z/
        FULL_WORDS = /\b(mailbox|quota|storage)\b.{0,40}\b(full|exceeded|limit)\b|\b(over|exceed\w*) .{0,20}\bquota\b/i
        ENHANCED = /\A\d{3}[ -]#?([245]\.\d{1,3}\.\d{1,3})(?![.\d])/
        UNKNOWN_USER = /
          \b(user|recipient|mailbox|account|address|person)\b.{0,30}\b(unknown|not\ found|does\ ?n[o']t\ exist|not\ known)\b|
          \b(unknown|no\ such)\s+(local\s+)?(user|recipient|mailbox|account|address|person)\b|
          \bno\ mailbox\ (here\ )?by\ that\ name\b
        /ix
        NO_SUCH_DOMAIN = /\b(host|domain)( or domain)?( name)? (not found|does not exist)\b|\bNXDOMAIN\b/i
        # RFC 3463 3.5: "no route to the host"; what a report gives for a domain that is not there.
        NO_ROUTE = "5.4.4"
        SOMETHING_ELSE = /\b(sender|relay\w*|spam|polic(y|ies)|block\w*|black ?list\w*|reputation|too (big|large)|full|quota)\b/i
        # Codes by which a server may say "unknown user" without an enhanced one.
        PLAIN_CODES = [550, 551, 553].freeze

        attr_reader :code, :words, :stage, :enhanced

        # @param words [String] the answer as it came, e.g. "550 5.1.1 no such user"
        # @param stage [Symbol] one of STAGES
        # @param enhanced [String, nil] the status of a report, e.g. "5.1.1"
        def initialize(words, stage:, enhanced: nil)
          @words = words.to_s.dup.force_encoding(Encoding::UTF_8).scrub("?").delete("\u0000").strip
          @stage = stage
          @code = @words[/\A\d{3}(?=[ -]|\z)/].to_i
          @enhanced = enhanced || @words[ENHANCED, 1]
          freeze
        end

        # @return [Boolean] RFC 5321 4.2.1: a real 2yz and nothing else
        def accepted? = (200..299).cover?(code)

        # @return [Boolean] an answer at all, so that one knows that the letter was not taken
        def refused? = (400..599).cover?(code)

        # @return [Boolean] whether asking again with this letter would not help
        def for_good? = code >= 500 && refused? && !full? && !ABOUT_US.include?(stage)

        # @return [Boolean] whether it says that there is no such address
        def about_address?
          return false unless KNOWS_ADDRESS.include?(stage)
          return false if stage != :report && !(500..599).cover?(code)
          return true if ADDRESS.include?(enhanced)

          plain = enhanced ? enhanced.match?(SAYS_NOTHING) : (stage == :report || PLAIN_CODES.include?(code))
          (plain && words.match?(UNKNOWN_USER) && !words.match?(SOMETHING_ELSE)) || no_such_domain?
        end

        # @return [String] two failures with the same are alike
        def key = "#{stage} #{code}"

        private

        def full? = enhanced ? enhanced.match?(FULL) : words.match?(FULL_WORDS)

        def no_such_domain? = stage == :report && enhanced == NO_ROUTE && words.match?(NO_SUCH_DOMAIN)
      end
    end
  end
end
