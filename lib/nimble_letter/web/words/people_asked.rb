# frozen_string_literal: true

module NimbleLetter
  module Web
    # Which people a request means: by a condition and words, by an audience, by their numbers, or those in the bin.
    module PeopleAsked
      # @param input [Hash{Symbol=>Object}] condition, words, audience and part (of those who would join sequence_id), ids, binned
      # @return [Sequel::Dataset] of people
      def self.dataset(input, moment)
        people = input[:binned] ? Records::Person.binned : Records::Person.kept
        people = people.where(Sequel[:people][:id] => input[:ids]) if input[:ids]
        if input[:audience]
          audience = moment.audience(input[:audience])
          found = input[:part] ? moment.sieving(audience, sequence_id: input[:sequence_id]).people_of(input[:part]) : audience.people
          people = people.where(Sequel[:people][:id] => found.unordered.select(Sequel[:people][:id]))
        end
        people = people.where(moment.sql.read(moment.parser.parse!(input[:condition]))) if input[:condition]
        input[:words] ? people.with_words(input[:words]) : people
      end

      # @raise [Invalid] when nothing was said: everybody must be meant on purpose
      def self.chosen(input, moment)
        unless input.keys.intersect?(%i[ids condition audience words everybody])
          raise Invalid.new("Say whom you mean.", at: "people", hint: "Choose people, or say a condition.")
        end

        dataset(input, moment)
      end
    end
  end
end
