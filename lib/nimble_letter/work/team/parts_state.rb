# frozen_string_literal: true

require "json"

module NimbleLetter
  module Work
    # Which parts of the application have ended by themselves lately and are being started again, so that the page can say
    # so. Kept in a file: it must be readable while the database is what has ended.
    class PartsState
      # What somebody at the page notices of it, by part.
      WORDS = {
        "worker" => "Letters and replies stood still a moment; they go on.",
        "sender" => "Letters stood still a moment; they go on.",
        "clerk" => "Files and acts on many stood still a moment; they go on.",
        "database" => "The records were away for a moment. Nothing is lost.",
        "post-office" => "The practice post office was away for a moment; letters are tried again.",
        "lookups" => "The practice lookups were away for a moment.",
        "web" => "The page was away for a moment."
      }.freeze

      # @param path [String] of the file
      def initialize(path)
        @path = path
      end

      # @param names [Array<String>] of parts, e.g. "clerk 2"
      def write(names)
        return if names == @written

        # Written whole or not at all: somebody may be reading.
        File.write("#{@path}.new", JSON.generate(names))
        File.rename("#{@path}.new", @path)
        @written = names
      end

      def clear = write([])

      # @return [Array<String>] sentences, each once
      def words
        JSON.parse(File.read(@path)).filter_map { |name| WORDS[name.split.first] }.uniq
      rescue Errno::ENOENT, JSON::ParserError
        []
      end
    end
  end
end
