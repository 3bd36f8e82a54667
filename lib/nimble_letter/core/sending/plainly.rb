# frozen_string_literal: true

module NimbleLetter
  module Core
    module Sending
      # A Stretch in which nothing but the mailbox's limit and the guard can keep a letter.
      class Plainly < Stretch
        def grant(person_id, lately, at)
          return super if lately && guarded?(lately, at)

          letters = @tally.letters
          return :full if letters >= @a_day

          @tally.letters = letters + 1
          lately << at if lately
          nil
        end
      end
    end
  end
end
