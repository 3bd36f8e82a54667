# frozen_string_literal: true

module NimbleLetter
  module Work
    # Says in which order the firm writes its days; every page shows and reads them so from then on.
    module ChooseDateOrder
      # @param order [String] of Core::Fields::Habit::ORDERS
      # @raise [Forbidden] unless an admin asks
      def self.call(order, moment:)
        moment.admin!
        return if Records::Firm.current.date_order == order

        Records.db.transaction do
          moment.note("setting_changed", about: "days are written as #{order}")
          Records::Firm.save(date_order: order)
        end
      end
    end
  end
end
