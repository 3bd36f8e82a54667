# frozen_string_literal: true

module NimbleLetter
  module Work
    # One move that holds all post, and one that lets it go on. The worker asks before every letter.
    module PostHold
      KEY = "post_held"

      # @return [Hash, nil] {at:, by:} while the post is held
      def self.current
        text = Records.db[:settings].where(key: KEY).get(:value)
        text && JSON.parse(text, symbolize_names: true)
      end

      # Holding what is held changes nothing.
      def self.hold(moment)
        Records.db[:settings].insert_ignore.insert(key: KEY, value: JSON.generate(at: moment.now.iso8601, by: moment.account&.name))
      end

      def self.release = Records.db[:settings].where(key: KEY).delete

      # @return [Sequel::Dataset] has a row while held; for use inside the worker's own statements
      def self.dataset = Records.db[:settings].where(key: KEY)
    end
  end
end
