# frozen_string_literal: true

require "find"

module NimbleLetter
  module Processes
    # What lies under var is one firm's letters and secrets: nobody but the user who runs the application reads it.
    module Privacy
      MASK = 0o077

      # From here on every file this process makes, and every process it starts, is for this user alone.
      def self.begin = File.umask(MASK)

      # Takes from everybody else what an earlier start, or the set-up, had left open.
      # @param folder [String]
      def self.tighten(folder)
        Find.find(folder) do |path|
          found = File.lstat(path)
          next unless found.file? || found.directory?

          File.chmod(found.mode & 0o700, path) if (found.mode & MASK).positive?
        rescue Errno::ENOENT
          # It was only there for a moment.
        end
      end
    end
  end
end
