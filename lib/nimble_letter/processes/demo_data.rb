# frozen_string_literal: true

require "fileutils"

module NimbleLetter
  module Processes
    # Brings the database to the newest migration, and fills it with the demo firm on the first start.
    class DemoData
      MARK = "demo_built"

      def initialize(configuration, say: ->(_) {})
        @configuration, @say = configuration, say
      end

      # @param fresh [Boolean] throws away what there is
      def prepare(fresh: false)
        Records.connect(@configuration)
        empty if fresh || half_built?
        Records.migrate(@configuration)
        build unless built?
      end

      # @return [Boolean] whether all of it is there
      def there?
        Records.connect(@configuration)
        Records.db.table_exists?(:settings) && built?
      end

      private

      def built? = Records.db[:settings].where(key: MARK).any?

      # A build that was interrupted is begun again.
      def half_built? = Records.db.table_exists?(:settings) && !built?

      def empty
        Records.begin_anew(@configuration)
        FileUtils.rm_rf(@configuration.maildir)
      end

      def build
        @say.call("Building the demo: half a year at Tern & Fallow Acoustics")
        Demo::Story.new(@configuration, say: ->(words) { @say.call("  #{words}") }).tell
        Records.db[:settings].insert(key: MARK, value: "true")
      end
    end
  end
end
