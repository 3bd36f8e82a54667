# frozen_string_literal: true

module NimbleLetter
  module Core
    module Results
      # One number with its base. Below SMALL the interval is told as well.
      class Figure
        SMALL = 100 # letters; above it the interval is narrower than ten points either way

        # How each figure is reckoned: its base, as people say it.
        BASES = {
          "planned" => nil,
          "sent" => "planned",
          "failed" => "planned",
          "skipped" => "planned",
          "in_doubt" => "planned",
          "due" => "planned",
          "opened" => "sent",
          "clicked" => "sent",
          "replied" => "sent",
          "quiet" => "sent",
          "bounced" => "sent",
          "unsubscribed" => "sent",
          "converted" => "sent"
        }.freeze

        attr_reader :name, :count, :base

        def initialize(name, count, base = nil)
          @name, @count, @base = name, count, base
          freeze
        end

        # @return [Float, nil] share from 0.0 to 1.0
        def rate = base&.positive? ? count.fdiv(base) : nil

        # @return [Array(Float, Float), nil] only where the base is small enough to need it
        def interval = (base && base < SMALL) ? Wilson.interval(count, base) : nil

        def to_h =
          {
            name: name,
            count: count,
            base: base,
            base_name: BASES[name],
            rate: rate&.round(4),
            interval: interval&.map { |share| share.round(4) }
          }
      end
    end
  end
end
