# frozen_string_literal: true

module NimbleLetter
  module Records
    # Counts what a thread has committed, so that somebody who would do a piece of work once more knows whether part of it
    # has been done for good already.
    module Commits
      KEY = :nimble_letter_commits

      # @return [Integer] transactions this thread has committed so far
      def self.count = Thread.current.thread_variable_get(KEY) || 0

      private

      def commit_transaction(conn, opts = OPTS)
        super.tap { Thread.current.thread_variable_set(KEY, Commits.count + 1) }
      end
    end
  end
end
