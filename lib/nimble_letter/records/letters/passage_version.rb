# frozen_string_literal: true

module NimbleLetter
  module Records
    # What a passage was at a time.
    class PassageVersion < Sequel::Model(:passage_versions)
      include KeptVersion

      many_to_one :passage
    end
  end
end
