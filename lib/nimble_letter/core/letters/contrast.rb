# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # How well one colour is told from another: WCAG 2.2, "contrast ratio".
      module Contrast
        # @param one [String] "#rrggbb"
        # @return [Float] 1.0 (the same) to 21.0 (black on white)
        def self.ratio(one, other)
          light, dark = [luminance(one), luminance(other)].sort.reverse
          (light + 0.05) / (dark + 0.05)
        end

        # WCAG 2.2, "relative luminance"
        def self.luminance(colour)
          red, green, blue =
            colour
              .scan(/\h\h/)
              .map { |part| part.hex / 255.0 }
              .map { |part| (part <= 0.04045) ? part / 12.92 : ((part + 0.055) / 1.055)**2.4 }
          0.2126 * red + 0.7152 * green + 0.0722 * blue
        end
        private_class_method :luminance
      end
    end
  end
end
