# frozen_string_literal: true

module NimbleLetter
  module Post
    # Letters that wait for one mailbox, in the order in which they go: by time, and of those who wait already people who have heard
    # from us before first letters, then the older first. The rehearsal has the same order (Core::Rehearsing::Line). Times are in
    # seconds since 1970.
    class MailboxQueue
      # @return [Core::Sending::Room::Box]
      attr_reader :box
      # @return [Integer] nothing is looked at before that
      attr_accessor :at

      # @param box [Core::Sending::Room::Box]
      # @param rows [Array<Records::Delivery>] in the order of time
      # @param most [Integer] so many at most were read of those who have heard from us, and of others
      # @param at [Integer]
      # @param upto [Integer] nothing is looked at after that
      def initialize(box, rows, most:, at:, upto:)
        @box, @at, @upto = box, at, upto
        @follow_ups, @firsts = rows.partition(&:follow_up)
        # Where as many were read as may be, more may wait behind them.
        @cut = [@follow_ups, @firsts].map { |some| some.size >= most }
      end

      # @return [Integer, nil] when the next letter is to be looked at; nil: none is
      def next_at
        return if [@follow_ups, @firsts].zip(@cut).any? { |rows, cut| rows.empty? && cut }

        due = [@follow_ups, @firsts].filter_map { |rows| due(rows) }.min or return
        [at, due].max.then { |time| time if time <= @upto }
      end

      # @param time [Integer] see #next_at
      # @return [Records::Delivery] whose turn it is then
      def shift(time) = ((due = due(@follow_ups)) && due <= time) ? @follow_ups.shift : @firsts.shift

      private

      # Never before it may.
      def due(rows) = rows.first&.due_at&.ceil&.to_i
    end
  end
end
