# frozen_string_literal: true

module NimbleLetter
  module Records
    # What a letter was at a time: who wrote it, and all of it.
    class LetterVersion < Sequel::Model(:letter_versions)
      extend JsonColumn

      json_column :content

      many_to_one :letter
      many_to_one :account

      # typed: as it was left; restored: gone back to; set_aside: another's text that lost a collision, kept all the same
      KINDS = %w[typed restored set_aside].freeze
    end
  end
end
