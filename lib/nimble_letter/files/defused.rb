# frozen_string_literal: true

module NimbleLetter
  module Files
    # Keeps a spreadsheet from running what a cell says: a text that would be read as a formula gets an apostrophe in
    # front (OWASP, "CSV Injection"). Phone numbers and amounts stay as they are.
    module Defused
      # Some programs take the signs of full width for the ordinary ones, some begin at a stroke, and some pass over white space.
      FORMULA = /\A[\s\u00a0\ufeff]*(?:[=@|\uff1d\uff20\uff5c]|[+\uff0b\uff0d\u2212-](?![\d\s().,-]*\z))|\A[\t\r\n]/

      # @return [Object] texts made harmless, everything else as it is
      def self.cell(value) = would_run?(value) ? "'#{value}" : value

      # @return [Object] a text as it was before it was made harmless, everything else as it is
      def self.undone(value)
        (value.is_a?(String) && value.start_with?("'") && would_run?(value)) ? value.delete_prefix("'") : value
      end

      # One that begins with apostrophes of its own gets one more, so that it comes back with those.
      def self.would_run?(value) = value.is_a?(String) && value.sub(/\A'+/, "").match?(FORMULA)
      private_class_method :would_run?
    end
  end
end
