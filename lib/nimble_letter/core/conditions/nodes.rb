# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # The nodes of a condition tree: small, frozen, equal by what they hold. Readers dispatch on the class.
      module Nodes
        # Gives a node its constructor, equality and hash from the named attributes.
        def self.node(*names)
          Class.new do
            attr_reader(*names)

            define_method(:initialize) do |**given|
              names.each { |name| instance_variable_set(:"@#{name}", given.fetch(name).freeze) }
              freeze
            end
            define_method(:values) { names.map { |name| public_send(name) } }
            define_method(:==) { |other| other.instance_of?(self.class) && other.values == values }
            alias_method :eql?, :==
            define_method(:hash) { [self.class, values].hash }
          end
        end
        private_class_method :node

        # All of them hold. With no parts: everybody.
        All = node(:parts)
        # At least one holds. With no parts: nobody.
        Any = node(:parts)
        # The part does not hold.
        Not = node(:part)
        # A test on a field of the catalogue: `is` names the operator, `value` is what it needs (nil, Array, String, Integer, Date, Span).
        FieldTest = node(:field, :is, :value)
        # Something that happened at least `at_least` times, within a Span before now (nil: ever).
        ActivityTest = node(:kind, :within, :at_least, :letter_id, :sequence_id, :link)
        # A place in a sequence (nil: any), with one of these statuses (empty: any), at this step (1 is the first; nil: any). step_id:
        # that stands before this step now ("in") or has ever come to it ("was_in"). lane_id: that went this lane.
        MembershipTest = node(:kind, :sequence_id, :statuses, :step, :step_id, :lane_id)
        # At least `at_least` deals of which `where` holds.
        DealsTest = node(:where, :at_least)
      end
    end
  end
end
