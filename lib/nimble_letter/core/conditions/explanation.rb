# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Why one person is in, or is not: each part of the tree, whether it holds, and what the record says.
      class Explanation
        # words: the part aloud; holds: Boolean; actual: what the record says, nil for a group; parts: Array of the same
        Part = Struct.new(:words, :holds, :actual, :parts, :joined_by)

        # @param memory [InMemory]
        # @param sentence [Sentence]
        # @param say [#call] (field, value) to words, for what only records can name
        def initialize(memory:, sentence:, say: ->(_field, value) { value.to_s })
          @memory, @sentence, @say = memory, sentence, say
          freeze
        end

        # @param node [Object] a condition tree
        # @param record [Hash] see InMemory#match?
        # @return [Part]
        def of(node, record)
          case node
          when Nodes::All then group(node, record, node.parts, "and")
          when Nodes::Any then group(node, record, node.parts, "or")
          when Nodes::Not then negated(node, record)
          else leaf(node, node, record)
          end
        end

        private

        def group(node, record, parts, word) =
          Part.new(nil, @memory.match?(node, record), nil, parts.map { |part| of(part, record) }, word)

        def negated(node, record)
          inner = node.part
          return group(node, record, [inner], "not") if [Nodes::All, Nodes::Any, Nodes::Not].include?(inner.class)

          leaf(node, inner, record)
        end

        def leaf(said, asked, record) = Part.new(@sentence.part(said), @memory.match?(said, record), actual(asked, record), [], nil)

        def actual(node, record)
          case node
          when Nodes::FieldTest then value(node.field, record[node.field.key])
          when Nodes::ActivityTest then times(@memory.count(node, record))
          when Nodes::MembershipTest then memberships(node, record)
          when Nodes::DealsTest then "#{@memory.deals(node, record)} of #{record.fetch("deals", []).size} deals"
          end
        end

        def value(field, value)
          return "nothing is known" if value.nil? || value == [] || (field.folded? && Fold.call(value).nil?)

          @say.call(field, value)
        end

        def times(count)
          case count
          when 0 then "never"
          when 1 then "once"
          else "#{count} times"
          end
        end

        def memberships(node, record)
          all = record.fetch("memberships", [])
          all = all.select { |membership| membership[:sequence_id] == node.sequence_id } if node.sequence_id
          return "never a member" if all.empty?

          all
            .map { |membership| "#{(membership[:state] == "active") ? "in it" : "was in it"}, status #{membership[:status]}" }
            .uniq
            .join("; ")
        end
      end
    end
  end
end
