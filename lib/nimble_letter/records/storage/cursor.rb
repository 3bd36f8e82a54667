# frozen_string_literal: true

require "base64"

module NimbleLetter
  module Records
    # Where a page ended, as text the caller hands back: a time (or nothing) and an id.
    module Cursor
      # @return [String]
      def self.write(time, id) =
        Base64.urlsafe_encode64(JSON.generate([time&.getutc&.strftime("%Y-%m-%d %H:%M:%S.%6N"), id]), padding: false)

      # @return [Array(Time or nil, Integer), nil] nil for the first page
      # @raise [Invalid]
      def self.read(text)
        return if text.nil? || text.empty?

        time, id = JSON.parse(Base64.urlsafe_decode64(text))
        raise ArgumentError unless id.is_a?(Integer)

        [time && Sequel.database_to_application_timestamp(time), id]
      rescue ArgumentError, JSON::ParserError, TypeError, NoMethodError, Sequel::InvalidValue
        raise Invalid.new("This page marker was not made here.", at: "cursor", hint: "Begin again without it.")
      end

      # @param dataset [Sequel::Dataset] already ordered newest first, by the time and the id
      # @param time [Symbol] the column it is ordered by
      # @return [Array(Array<Sequel::Model>, String)] rows and the marker of the next page, nil on the last
      def self.page(dataset, time:, cursor:, limit:)
        rows = after(dataset, time, read(cursor)).limit(limit + 1).all
        more = rows.size > limit
        rows = rows.first(limit)
        [rows, more ? write(rows.last[time], rows.last.id) : nil]
      end

      def self.after(dataset, time, cursor)
        return dataset unless cursor

        at, last = cursor
        column, earlier = Sequel[dataset.model.table_name][time], Sequel[dataset.model.table_name][:id] < last
        # Those without a time come last.
        return dataset.where(Sequel.&({column => nil}, earlier)) if at.nil?

        dataset.where(Sequel.|(column < at, Sequel.&({column => at}, earlier), {column => nil}))
      end
      private_class_method :after
    end
  end
end
