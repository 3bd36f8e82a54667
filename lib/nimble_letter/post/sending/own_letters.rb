# frozen_string_literal: true

module NimbleLetter
  module Post
    # What goes to ourselves: tests to colleagues, and short mails of our own, over one connection.
    class OwnLetters
      # @param transport [#deliver, #break_off]
      # @param composer [Composer]
      def initialize(transport:, composer:)
        @transport = transport
        @tests, @notices = TestLetters.new(transport: transport, composer: composer), Notices.new(transport: transport)
      end

      # @return [Boolean] whether there is anything to send
      def self.any? = TestLetters.any? || Notices.any?

      # What a lost worker held is not left hanging.
      def self.recover
        TestLetters.recover
        Notices.recover
      end

      # @param moment [Work::Moment]
      # @param stop [#call] asked before each letter
      # @return [Integer] letters handled
      def round(moment, stop: -> { false }) = @tests.round(moment, stop: stop) + @notices.round(moment)

      def break_off = @transport.break_off
    end
  end
end
