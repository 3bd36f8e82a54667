# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # By what people join a sequence, and who may join once more.
      module Joining
        # needs: what its settings hold. hears: what may make it true of somebody. daily: whether time alone can. now_too: whether it
        # can be true of people before it is switched on.
        Kind = Struct.new(:needs, :hears, :daily, :now_too, keyword_init: true)

        KINDS = {
          "filter" => Kind.new(needs: %w[audience], hears: "anything", daily: true, now_too: true),
          "tag" => Kind.new(needs: %w[tag_id], hears: "tag", daily: false, now_too: true),
          "list" => Kind.new(needs: %w[list_id], hears: "list", daily: false, now_too: true),
          "field" => Kind.new(needs: %w[field], hears: "field_changed", daily: false, now_too: false),
          "file" => Kind.new(needs: [], hears: "imported", daily: false, now_too: false),
          "yearly" => Kind.new(needs: %w[field days], hears: nil, daily: true, now_too: false),
          # These two are told of by what takes them in.
          "mail" => Kind.new(needs: [], hears: "came_by_mail", daily: false, now_too: false),
          "form" => Kind.new(needs: [], hears: "came_by_form", daily: false, now_too: false),
          # Hand-over steps come here; the rule says who may come again.
          "handed_over" => Kind.new(needs: [], hears: nil, daily: false, now_too: false)
        }.freeze

        # never: whoever was in it stays out. finished: whoever has come to its end. every: every time, with a least gap.
        AGAIN = %w[never finished every].freeze
        MOST_DAYS = 3650

        # So often within a day nobody means it: hand-overs, tags or fields that go round in a circle.
        CIRCLE = 3
        CIRCLE_SECONDS = 86_400
        # Each year is a round; a date that moves a little is no other year.
        YEAR_SECONDS = 300 * 86_400

        # A membership so far. state: active, left or finished.
        Last = Struct.new(:state, :joined_at)

        # @param again [String] one of AGAIN
        # @param gap_days [Integer] between joining and joining again
        # @param last [Last, nil] the last time they were in it
        # @param now [Time]
        # @return [Boolean] whether they may join
        def self.may?(again, gap_days, last, now)
          return true unless last
          return false if last.state == "active" || again == "never"
          return last.state == "finished" if again == "finished"

          now - last.joined_at >= gap_days * 86_400
        end
      end
    end
  end
end
