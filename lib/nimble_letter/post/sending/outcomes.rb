# frozen_string_literal: true

module NimbleLetter
  module Post
    # What became of handing a letter over. Every transport answers with one of these and raises nothing.
    module Outcomes
      # The other server took it.
      Accepted = Struct.new(:words)
      # It said no. for_good: asking again would not help.
      Refused = Struct.new(:words, :for_good)
      # Nothing of the letter reached the wire.
      Unreachable = Struct.new(:words)
      # The line broke after the letter was on the wire: nobody here can know.
      Doubtful = Struct.new(:words)
    end
  end
end
