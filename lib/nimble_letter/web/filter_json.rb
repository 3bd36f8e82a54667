# frozen_string_literal: true

module NimbleLetter
  module Web
    # A saved filter as the contract has it.
    module FilterJson
      def self.write(filter)
        tree = Core::Conditions::Parser.new.parse!(filter.condition)
        {id: filter.id, name: filter.name, condition: filter.condition, sentence: AudienceWords.sentence(tree), version: filter.version}
      end
    end
  end
end
