# frozen_string_literal: true

module NimbleLetter
  module Core
    # A person's name put together, for any script and order. Parts stay as they were typed: nothing is guessed
    # from their look, and a name of one part is as good as one of four.
    module Names
      # Scripts that are written without a space between family name and given name.
      UNSPACED = /\A[\p{Han}\p{Hiragana}\p{Katakana}]+\z/

      # @param parts [Hash] :title, :first_name, :last_name, :name_order; any may be missing
      # @return [String, nil] the whole name as it is written; nil for nobody
      def self.full(parts)
        given, family = parts[:first_name], parts[:last_name]
        names = ((parts[:name_order] == "family_first") ? [family, given] : [given, family]).compact
        unspaced = parts[:name_order] == "family_first" && names.all? { |name| name.match?(UNSPACED) }
        whole = [parts[:title], *(unspaced ? [names.join] : names)].compact.join(" ")
        whole.empty? ? nil : whole
      end

      # @return [String, nil] what to call them in a greeting
      def self.called(parts) = parts[:known_as] || parts[:first_name]
    end
  end
end
