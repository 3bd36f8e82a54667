# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # A letter that goes in a Rehearsal. seconds: when, since 1970; due: when it was to go; why: what kept it, see Sending::Room
      Letter = Struct.new(:person_id, :step_id, :box_id, :seconds, :due, :why) do
        # @return [Time]
        def at = Time.at(seconds).utc

        # @return [Time]
        def wanted = Time.at(due).utc
      end
    end
  end
end
