# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # A letter to be sent at its time.
      Step = Struct.new(:id, :letter_id, :timing, keyword_init: true) do
        def initialize(...)
          super
          freeze
        end
      end

      # The steps of a sequence in order, and what takes a member out of it.
      class Plan
        # Events that end a membership whatever the plan says: nobody is written to again after these.
        ALWAYS_LEAVE = %w[unsubscribed bounced refused complained taken_out].freeze
        OPTIONAL_LEAVE = %w[replied converted].freeze

        attr_reader :steps, :leave_on

        # @param steps [Array<Step>]
        # @param leave_on [Array<String>] any of OPTIONAL_LEAVE
        def initialize(steps:, leave_on: OPTIONAL_LEAVE)
          @steps = steps.dup.freeze
          @leave_on = (ALWAYS_LEAVE + (leave_on & OPTIONAL_LEAVE)).freeze
          freeze
        end

        def leaves_on?(kind) = leave_on.include?(kind)
      end
    end
  end
end
