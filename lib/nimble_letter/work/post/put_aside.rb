# frozen_string_literal: true

require "timeout"

module NimbleLetter
  module Work
    # Sets aside what could not be worked on, so that everything else goes on. The same thing a second time is one more try.
    module PutAside
      SOURCE_BYTES = 64 * 1024
      # What a single thing can raise without saying anything about the next one. A stack that ran out is the thing's own
      # doing (nesting without end), and is empty again afterwards.
      OF_ONE_THING = [StandardError, SystemStackError].freeze

      # @param kind [String] one of Records::SetAside::KINDS
      # @param key [#to_s] of the thing
      # @param problem [Exception, String] why
      # @param at [Time] by the clock in use
      # @param about [Hash] delivery_id:, source: (bytes to look at)
      def self.call(kind, key, problem, at:, **about)
        about = about.merge(source: Sequel.blob(about[:source].byteslice(0, SOURCE_BYTES))) if about[:source]
        fresh = {reason: reason(problem)[0, 500], detail: detail(problem), again: false, last_at: at, **about}
        Records.db[:set_asides].on_duplicate_key_update(**fresh, tries: Sequel[:tries] + 1).insert(
          kind: kind,
          key: key.to_s[0, 190],
          first_at: at,
          **fresh
        )
      end

      # The thing has been worked on after all, or nobody needs it any more.
      def self.done(kind, key) = Records::SetAside.where(kind: kind, key: key.to_s[0, 190]).delete

      # Works on one thing; what it raises sets it aside. A database that is away is nobody's fault and is passed on.
      # @return what the block returns, or nil when the thing was set aside
      def self.guard(kind, key, at:, **about)
        yield
      rescue *Records::Patience::AWAY
        raise
      rescue *OF_ONE_THING => error
        call(kind, key, error, at: at, **about)
        nil
      end

      # @return [String] what is said of it, in words
      def self.reason(problem)
        case problem
        when String then problem
        when Error then problem.message
        when Timeout::Error then "It took too long to work on."
        when SystemStackError then "It is nested too deeply to be worked on."
        else "#{problem.class.name.split("::").last.gsub(/(?<=[a-z])(?=[A-Z])/, " ").downcase}: #{readable(problem.message)}"
        end
      end

      def self.detail(problem)
        return unless problem.is_a?(Exception)

        places = problem.backtrace.to_a.first(12).map { |line| line.delete_prefix("#{ROOT}/") }
        ["#{problem.class}: #{readable(problem.message)}", *places].join("\n")[0, 8000]
      end
      private_class_method :detail

      # Messages of errors quote what they choke on.
      def self.readable(text) = text.to_s.dup.force_encoding(Encoding::UTF_8).scrub("?").delete("\u0000")[0, 300]
      private_class_method :readable
    end
  end
end
