# frozen_string_literal: true

module NimbleLetter
  module Records
    # A colleague who signs in.
    class Account < Sequel::Model(:accounts)
      extend JsonColumn

      json_column :signature

      ROLES = %w[admin colleague].freeze

      # As Rodauth counts them.
      OPEN, CLOSED = 2, 3

      one_to_one :mailbox

      dataset_module { where :able_to_sign_in, status_id: OPEN }

      def open? = status_id == OPEN

      def admin? = role == "admin"

      def first_name = name.split.first
    end
  end
end
