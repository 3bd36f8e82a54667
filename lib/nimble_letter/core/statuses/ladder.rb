# frozen_string_literal: true

module NimbleLetter
  module Core
    module Statuses
      # What the firm says of a member, and how that moves by itself: up only, and never over a hand-set status
      # unless the event stands higher.
      class Ladder
        # One rung: its key, its words, the events that bring a member here, and whether it counts as a response.
        Rung = Struct.new(:key, :words, :events, :response)

        STANDARD = [
          Rung.new("to_write", "to be written to", %w[joined], false),
          Rung.new("written", "written to", %w[sent], false),
          Rung.new("read", "has opened", %w[opened], false),
          Rung.new("curious", "has clicked", %w[clicked], false),
          Rung.new("not_reached", "not reached", %w[bounced refused], false),
          Rung.new("declined", "wants no letters", %w[unsubscribed complained], true),
          Rung.new("answered", "has answered", %w[replied], true),
          Rung.new("won", "converted", %w[converted], true)
        ].freeze

        attr_reader :rungs, :first

        # @param rungs [Array<Rung>] lowest first
        # @param default [String, nil] the one a member begins with; nil: the lowest
        def initialize(rungs = STANDARD, default: nil)
          @rungs, @first = rungs.dup.freeze, default || rungs.first.key
          @height = rungs.each_with_index.to_h { |rung, i| [rung.key, i] }.freeze
          @by_event = rungs.flat_map { |rung| rung.events.map { |event| [event, rung.key] } }.to_h.freeze
          freeze
        end

        def known?(key) = @height.key?(key)

        # @param key [String] one that is not known any more is none
        def response?(key) = (height = @height[key]) ? rungs[height].response : false

        # @return [String] what people call it; a status that is not known any more by its key
        def words(key) = (height = @height[key]) ? rungs[height].words : key

        # @param current [String] status key; one that is not known any more stands below all others
        # @param event [String] event kind
        # @return [String] the status after it: the same, or a higher one
        def after(current, event)
          target = @by_event[event]
          (target && @height.fetch(target) > @height.fetch(current, -1)) ? target : current
        end
      end
    end
  end
end
