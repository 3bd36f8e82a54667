# frozen_string_literal: true

module NimbleLetter
  module Web
    # The public pages as a Rack application with what they need.
    module PublicSite
      # @param configuration [Configuration]
      # @param clock [#now]
      def self.app(configuration, clock:)
        Class.new(PublicPages) do
          set :tokens, Core::Tracking::Token.new(configuration.secret)
          set :clock, clock
        end
      end
    end
  end
end
