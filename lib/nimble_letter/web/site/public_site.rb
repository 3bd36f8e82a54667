# frozen_string_literal: true

module NimbleLetter
  module Web
    # The public pages as a Rack application with what they need.
    module PublicSite
      # Those that are counted for each address. Pictures are not: one mail proxy fetches them for many readers.
      PATHS = %r{\A/[ocu]/}

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
