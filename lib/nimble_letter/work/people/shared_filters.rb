# frozen_string_literal: true

module NimbleLetter
  module Work
    # Everybody sees whom a sequence is for, so that it uses filters that everybody sees. A filter in use cannot be taken for oneself
    # (KeepFilter).
    module SharedFilters
      # Nobody takes them for themselves until the transaction ends.
      # @param audience [Records::Audience]
      # @raise [Invalid] naming the one that is not shared
      def self.hold!(audience)
        ids = audience.used_filters.map(&:id)
        own = Records::SavedFilter.where(id: ids).order(:id).for_update.all.find { |one| !one.shared } or return
        raise Invalid.new(
          "Colleagues do not see the filter “#{own.name}”, and everybody sees whom a sequence is for.",
          code: :filter_not_shared,
          at: "audience.filters",
          hint: "Share the filter first, or say its condition instead."
        )
      end
    end
  end
end
