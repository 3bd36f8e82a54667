# frozen_string_literal: true

module NimbleLetter
  module Files
    # Keeps a spreadsheet from running what a cell says: a text that would be read as a formula gets an apostrophe in
    # front (OWASP, "CSV Injection"). Phone numbers and amounts stay as they are.
    module Defused
      FORMULA = /\A[=@\t\r]|\A[+-](?![\d\s().,-]*\z)/

      # @return [Object] texts made harmless, everything else as it is
      def self.cell(value) = (value.is_a?(String) && value.match?(FORMULA)) ? "'#{value}" : value
    end
  end
end
