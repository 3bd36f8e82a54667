# frozen_string_literal: true

module NimbleLetter
  module Records
    # Whether there are any rows is asked of one of them: Enumerable would have all of them sent, to look at the first.
    module AsksForOne
      # @return [Boolean] whether there is a row, or one for which the block or pattern holds
      def any?(*pattern, &block) = (pattern.empty? && block.nil?) ? !empty? : super

      # @return [Boolean] likewise, whether there is none
      def none?(*pattern, &block) = (pattern.empty? && block.nil?) ? empty? : super
    end
  end
end
