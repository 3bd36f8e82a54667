# frozen_string_literal: true

module NimbleLetter
  module Processes
    # Whether files have changed, come or gone since one asked last. It looks at their times, which for a thousand files takes a few
    # thousandths of a second, and needs nothing of the system.
    class ChangedFiles
      # @param paths [Array<String>] of files and folders, below the project
      def initialize(paths, root: ROOT)
        @paths = paths.map { |path| File.join(root, path) }
        @seen = seen
      end

      # @return [Boolean]
      def any?
        now = seen
        (now != @seen).tap { @seen = now }
      end

      private

      def seen
        @paths
          .flat_map { |path| File.directory?(path) ? Dir.glob("#{path}/**/*") : [path] }
          .to_h { |path| [path, File.mtime(path)] }
      rescue Errno::ENOENT
        # It went between being found and being looked at; the next look will tell.
        @seen
      end
    end
  end
end
