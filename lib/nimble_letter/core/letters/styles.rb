# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # The attributes that carry a part's style, ready to be put into its tag. Worked out once a look, not once a letter.
      class Styles
        # @param attributes [Hash{Symbol=>String}] by part, each with a space before it: %( style="margin:0")
        def initialize(attributes)
          @attributes = attributes.freeze
          freeze
        end

        # @param part [Symbol] of Stylesheet::PARTS
        def [](part) = @attributes[part]

        NONE = new({})
      end
    end
  end
end
