# frozen_string_literal: true

module NimbleLetter
  module Records
    # A colleague who signs in.
    class Account < Sequel::Model(:accounts)
      extend JsonColumn

      json_column :signature

      ROLES = %w[admin colleague].freeze

      one_to_one :mailbox

      def admin? = role == "admin"

      def first_name = name.split.first
    end
  end
end
