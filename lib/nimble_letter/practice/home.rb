# frozen_string_literal: true

module NimbleLetter
  module Practice
    # Where this application answers its own practice letters. Letters outlive a start on another port: what stands in them
    # behind host and port counts.
    class Home
      # @return [Regexp] what an address on this machine begins with
      ANY = %r{http://(?:127\.0\.0\.1|localhost)(?::\d+)?(?=/)}

      # @param port [Integer]
      def initialize(port)
        @begins = "http://127.0.0.1:#{port}"
      end

      # @param url [String] as it stands in a letter
      # @return [URI] where that is answered now
      # @raise [Error] of an address elsewhere
      def find(url)
        raise Error.new("Characters only call this machine, not #{URI(url).host}.") unless url.match?(/\A#{ANY}/o)

        URI(url.sub(ANY, @begins))
      end
    end
  end
end
