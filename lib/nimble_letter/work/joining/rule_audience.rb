# frozen_string_literal: true

module NimbleLetter
  module Work
    # Of whom a rule of joining is true, as an audience: whoever fits its filter, wears its tag or is on its list. Rules about what
    # happens are true of nobody beforehand.
    module RuleAudience
      # @param rule [Records::JoinRule]
      # @return [Hash] see Audience in openapi.yaml; of a tag that is gone, nobody
      def self.of(rule)
        case rule.kind
        when "filter" then rule.settings["audience"]
        when "tag" then {"tags" => Records::Tag.where(id: rule.settings["tag_id"]).select_map(:name)}
        when "list" then {"lists" => [rule.settings["list_id"]]}
        else {}
        end
      end
    end
  end
end
