# frozen_string_literal: true

module NimbleLetter
  module Core
    module Statuses
      # A set of member statuses as it is kept, lowest first: key, words, whether it counts as a response, which happenings move a
      # member there, and which one a member begins with.
      module StatusSetJson
        MOST = 20
        # What can move a member by itself.
        EVENTS = (%w[joined sent] + Journey::Happenings::KINDS.keys - %w[taken_out]).freeze

        # @param list [Array<Hash{String=>Object}>] "key", "words", "events", "response", "default"
        # @return [Ladder]
        def self.read(list)
          rungs = list.map { |one| Ladder::Rung.new(one["key"], one["words"], one.fetch("events", []), one.fetch("response", false)) }
          Ladder.new(rungs, default: list.find { |one| one["default"] }&.[]("key"))
        end

        # @param known [Array<String>] keys there have been so far
        # @return [Array<Hash>] as it is kept
        # @raise [Invalid]
        def self.check(list, known:)
          list = KeyedWords.put(list, noun: "status", at: "statuses", known: known, most: MOST, least: 2)
          events = list.flat_map { |one| one.fetch("events", []) }
          strange = events - EVENTS
          raise Invalid.new("Nothing that happens is called #{strange.first.inspect}.", at: "statuses.events") if strange.any?

          twice = events.tally.find { |_, times| times > 1 }
          raise Invalid.new("What happens moves a member to one status; “#{twice.first}” is at two.", at: "statuses.events") if twice
          raise Invalid.new("A member begins with one status.", at: "statuses.default") if list.count { |one| one["default"] } > 1

          list.map do |one|
            {"key" => one["key"], "words" => one["words"], "events" => one.fetch("events", []),
             "response" => one["response"] == true, "default" => (true if one["default"])}.compact
          end
        end
      end
    end
  end
end
