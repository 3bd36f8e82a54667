# frozen_string_literal: true

module NimbleLetter
  module Work
    # Sets how many letters a day may leave from a mailbox.
    module LimitMailbox
      # @param box [Records::Mailbox]
      # @raise [Forbidden] unless an admin asks
      # @return [Records::Mailbox]
      def self.call(box, daily_limit, moment:)
        moment.admin!
        moment.note("setting_changed", about: "#{box.address}: #{daily_limit} letters a day, #{box.daily_limit} before")
        box.update(daily_limit: daily_limit)
      end
    end
  end
end
