# frozen_string_literal: true

module NimbleLetter
  module Web
    # Wakes the parts that work in the background once a request has been answered that may have given them something to do.
    class Rings
      READING = %w[GET HEAD OPTIONS].freeze

      # @param bell [Bell]
      # @param reading_too [Boolean] for pages where looking is noted, like the picture in a letter
      def initialize(app, bell, reading_too: false)
        @app, @bell, @reading_too = app, bell, reading_too
      end

      def call(env)
        answer = @app.call(env)
        @bell.ring if @reading_too || !READING.include?(env["REQUEST_METHOD"])
        answer
      end
    end
  end
end
