# frozen_string_literal: true

module NimbleLetter
  module Web
    # How much a request may bring, asked before anything reads it. The web server asks it too, before it gathers a body whose size is
    # said (FirstLook); of others it has gathered and counted the body by then, see Processes::WebServer for the most it gathers at all.
    class BodyLimit
      MB = 1024 * 1024
      ORDINARY_BYTES = 6 * MB # a letter of several languages, with some room
      LITTLE_BYTES = 16 * 1024 # an address and two passwords
      LITTLE = %r{\A/(?:auth|o|c|u|p)(?:/|\z)}
      # Read piece by piece, each with a limit of its own that says so in its words; this is the most any of them takes.
      FILES = {
        %r{\A/api/imports\z} => Work::ReceiveImport::MOST_BYTES,
        %r{\A/api/pictures\z} => Work::TakePicture::MOST_BYTES,
        %r{\A/api/letters/\d+/attachments\z} => Work::TakeAttachment::MOST_BYTES,
        %r{\A/api/letters/file\z} => Work::LetterIn::MOST_BYTES,
        %r{\A/api/sequences/file\z} => Work::SequenceIn::MOST_BYTES
      }.freeze
      MOST_BYTES = FILES.values.max

      # @param path [String]
      # @return [Integer] bytes
      def self.for(path)
        path = path.squeeze("/")
        return LITTLE_BYTES if path.match?(LITTLE)

        FILES.find { |pattern, _| path.match?(pattern) }&.last || ORDINARY_BYTES
      end

      def initialize(app) = @app = app

      def call(env)
        most = self.class.for(env["PATH_INFO"])
        return self.class.refused(env["PATH_INFO"]) if env["CONTENT_LENGTH"].to_i > most

        env = env.merge("rack.input" => CountedBody.new(env["rack.input"], most)) if env["rack.input"] && !env["CONTENT_LENGTH"]
        @app.call(env)
      rescue CountedBody::TooMuch
        self.class.refused(env["PATH_INFO"])
      end

      # @return [Array] the Rack answer to one that brings more
      def self.refused(path)
        most = self.for(path)
        words = (most < MB) ? "#{most / 1024} kB" : "#{most / MB} MB"
        Problem.response(413, code: "too_large", message: "This is larger than #{words}.", hint: "Send less at once.")
      end
    end
  end
end
