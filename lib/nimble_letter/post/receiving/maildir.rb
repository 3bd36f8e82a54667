# frozen_string_literal: true

require "fileutils"
require "socket"
require "securerandom"

module NimbleLetter
  module Post
    # A folder of mail in the Maildir layout: written in tmp, moved whole to new, and to cur once it has been taken in. Beside
    # these stands "aside", for what could not be read.
    class Maildir
      FOLDERS = %w[tmp new cur aside].freeze

      attr_reader :path

      def initialize(path)
        @path = path
        FOLDERS.each { |folder| FileUtils.mkdir_p(File.join(path, folder)) }
      end

      # @param raw [String] a message
      # @return [String] its file name
      def deliver(raw)
        name = "#{SecureRandom.hex(12)}.#{Process.pid}.nimble"
        File.binwrite(File.join(path, "tmp", name), raw)
        File.rename(File.join(path, "tmp", name), File.join(path, "new", name))
        name
      end

      # @return [Array<String>] names of mail not taken in yet
      def waiting = Dir.children(File.join(path, "new")).sort

      def file(name) = File.join(path, "new", name)

      # A flag of S means seen. Moving a file that has been moved already is no error.
      def take_in(name) = move(file(name), File.join(path, "cur", "#{name}:2,S"))

      # Out of the way of everything else.
      def set_aside(name) = move(file(name), File.join(path, "aside", name))

      # To be read once more.
      def put_back(name) = move(File.join(path, "aside", name), file(name))

      private

      # Somebody else may have been quicker.
      def move(from, to)
        File.rename(from, to)
      rescue Errno::ENOENT
        nil
      end
    end
  end
end
