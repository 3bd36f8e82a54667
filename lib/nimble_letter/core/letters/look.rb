# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # How the firm's designed letters look: a few colours, one face of type, a logo. Set once, in Settings.
      class Look
        # Faces that readers' programs have; each with its relatives, since none is everywhere.
        FONTS = {
          "georgia" => "Georgia, 'Times New Roman', serif",
          "palatino" => "'Palatino Linotype', Palatino, 'Book Antiqua', serif",
          "helvetica" => "Helvetica, Arial, sans-serif",
          "verdana" => "Verdana, Geneva, sans-serif",
          "trebuchet" => "'Trebuchet MS', Helvetica, sans-serif"
        }.freeze
        COLOUR = /\A#[0-9a-f]{6}\z/i
        DEFAULTS = {
          "accent" => "#0e5a55",
          "on_accent" => "#ffffff",
          "ink" => "#1e2a2e",
          "sheet" => "#ffffff",
          "page" => "#f3efe6",
          "font" => "georgia",
          "logo_picture_id" => nil
        }.freeze
        COLOURS = %w[accent on_accent ink sheet page].freeze
        # What is read on what, and where.
        PAIRS = {
          "The text on the sheet" => %w[ink sheet],
          "Links on the sheet" => %w[accent sheet],
          "The words of a button" => %w[on_accent accent]
        }.freeze
        ENOUGH = 4.5 # WCAG 2.2, 1.4.3: contrast of text

        attr_reader :values

        # @param values [Hash{String=>Object}] as somebody sent them
        # @raise [Invalid]
        # @return [Look] of nothing but what there is
        def self.parse!(values)
          strange = values.keys.find { |name| !DEFAULTS.key?(name) }
          raise Invalid.new("A look has no #{strange.inspect}.", at: "look.#{strange}") if strange

          new(values)
        end

        # @param values [Hash{String=>String}] any of DEFAULTS
        # @raise [Invalid]
        def initialize(values = {})
          @values = DEFAULTS.merge((values || {}).slice(*DEFAULTS.keys)).freeze
          COLOURS.each do |name|
            unless self[name].to_s.match?(COLOUR)
              raise Invalid.new("A colour looks like #0e5a55, not #{self[name].inspect}.", at: "look.#{name}")
            end
          end
          raise Invalid.new("There is no face of type #{self["font"].inspect}.", at: "look.font") unless FONTS.key?(self["font"])
          unless [NilClass, Integer].include?(self["logo_picture_id"].class)
            raise Invalid.new("A logo is a picture of the library.", at: "look.logo_picture_id")
          end

          freeze
        end

        def [](name) = values[name]

        def font = FONTS.fetch(self["font"])

        # @return [Array<Hash>] pairs of colours with their contrast, and whether it is enough to be read
        def contrasts
          PAIRS.map do |what, (one, other)|
            Contrast.ratio(self[one], self[other]).then { |ratio| {what: what, ratio: ratio.round(2), enough: ratio >= ENOUGH} }
          end
        end

        def ==(other) = other.is_a?(Look) && other.values == values
        alias_method :eql?, :==

        def hash = values.hash
      end
    end
  end
end
