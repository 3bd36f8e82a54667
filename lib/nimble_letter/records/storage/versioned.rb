# frozen_string_literal: true

module NimbleLetter
  module Records
    # A record that several people may edit. Two writers with the same version: the second gets Conflict with what the
    # first has saved, and nothing is overwritten.
    module Versioned
      # @param changes [Hash{Symbol=>Object}]
      # @param version [Integer] as it was read
      # @param now [Time]
      # @param touched [Boolean] what belongs to it changes too, so that the version moves in any case
      # @raise [Conflict]
      def change!(changes, version:, now:, touched: false)
        db.transaction do
          lock!
          unless self.version == version
            raise Conflict.new(
              "Somebody else changed this meanwhile.",
              hint: "Look at what they wrote, and make your change again.",
              data: {
                version: self.version
              }
            )
          end
          changes.each { |name, value| respond_to?(:"#{name}=") ? public_send(:"#{name}=", value) : self[name] = value }
          next self unless modified? || touched

          set(version: version + 1, updated_at: now)
          save_changes
        end
        self
      end
    end
  end
end
