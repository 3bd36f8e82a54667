# frozen_string_literal: true

module NimbleLetter
  module Core
    module Safety
      # What a browser says it is, in words in which somebody recognises their own.
      module Agent
        # In this order: nearly all of them also name the others.
        BROWSERS = {"Edg" => "Edge", "OPR" => "Opera", "Firefox" => "Firefox", "Chrom" => "Chrome", "Safari" => "Safari"}.freeze
        MACHINES = {"iPhone" => "an iPhone", "iPad" => "an iPad", "Android" => "Android", "Windows" => "Windows", "Mac OS" => "a Mac",
                    "Linux" => "Linux"}.freeze

        # @param header [String, nil] the User-Agent as it came
        # @return [String] e.g. "Firefox on Linux"
        def self.words(header)
          text = header.to_s
          browser = BROWSERS.find { |mark, _| text.include?(mark) }&.last
          machine = MACHINES.find { |mark, _| text.include?(mark) }&.last
          return "Another program" unless browser

          machine ? "#{browser} on #{machine}" : browser
        end
      end
    end
  end
end
