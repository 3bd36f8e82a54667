# frozen_string_literal: true

module NimbleLetter
  module Files
    # Keeps a spreadsheet from running what a cell says: a text that would be read as a formula gets an apostrophe in
    # front (OWASP, "CSV Injection"). Phone numbers and amounts stay as they are.
    module Defused
      # Some programs take the signs of full width for the ordinary ones, some begin at a stroke, and some pass over white space.
      FORMULA = /\A[\s\u00a0\ufeff]*(?:[=@|\uff1d\uff20\uff5c]|[+\uff0b\uff0d\u2212-](?![\d\s().,-]*\z))|\A[\t\r\n]/

      # @return [Object] texts made harmless, everything else as it is
      def self.cell(value) = (value.is_a?(String) && value.match?(FORMULA)) ? "'#{value}" : value
    end
  end
end
