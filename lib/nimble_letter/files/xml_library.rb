# frozen_string_literal: true

module NimbleLetter
  module Files
    # Nokogiri brings a libxml2 of its own; libvips brings Debian's. Whichever is loaded first serves both, and Nokogiri runs
    # on no other than its own. So it is loaded before libvips, wherever that is needed, and when a process begins.
    module XmlLibrary
      # @return [true]
      # @raise [Error] when Nokogiri runs on another library than it was built for
      def self.load!
        require "nokogiri"
        versions = Nokogiri::VERSION_INFO.fetch("libxml").values_at("compiled", "loaded")
        return true if versions.uniq.size == 1

        raise Error.new("Nokogiri was built for libxml2 #{versions.first} and runs on #{versions.last}.", code: :wrong_library)
      end
    end
  end
end
