# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Whether a condition says nothing that could tell one person from another.
      module Everybody
        # @param node [Object] of Nodes
        # @return [Boolean] whether it holds of whoever there is
        def self.meant?(node)
          case node
          when Nodes::All then node.parts.all? { |part| meant?(part) }
          when Nodes::Any then node.parts.any? { |part| meant?(part) }
          when Nodes::Not then nobody?(node.part)
          else false
          end
        end

        # @return [Boolean] whether it holds of nobody there could be
        def self.nobody?(node)
          case node
          when Nodes::All then node.parts.any? { |part| nobody?(part) }
          when Nodes::Any then node.parts.all? { |part| nobody?(part) }
          when Nodes::Not then meant?(node.part)
          else false
          end
        end
      end
    end
  end
end
