# frozen_string_literal: true

require "vips"
require "stringio"

module NimbleLetter
  module Demo
    # Pictures of the demo firm, drawn here: felt in bands, a room with panels. Nothing in them was photographed.
    module Pictures
      WIDTH, HEIGHT = 1200, 560

      # @return [Hash{Symbol=>Records::Picture}]
      def self.make(moment)
        taking = Work::TakePicture.new(moment)
        {room: ["A dining room after fitting", room], felt: ["Felt from old fishing nets", felt]}.transform_values do |name, image|
          taking.call(StringIO.new(image.pngsave_buffer), name: name)
        end
      end

      # A wall, a row of panels, a table with a lamp.
      def self.room
        shapes = Array.new(7) { |n| [70 + n * 155, 70, 130, 210, n.even? ? "#2f6d67" : "#7fa39a"] }
        draw("#efe6d6", shapes)
      end

      def self.felt
        colours = %w[#0e5a55 #2f6d67 #5e8a7d #9db5a4 #d8cfb8 #c49a5a #80540a]
        draw("#f6f1e6", Array.new(28) { |n| [0, n * 20, WIDTH, 20, colours[(n * 3 + n / 5) % colours.size]] }).gaussblur(3)
      end

      def self.draw(ground, shapes)
        canvas = Vips::Image.black(WIDTH, HEIGHT, bands: 3) + rgb(ground)
        canvas = canvas.cast(:uchar).copy(interpretation: :srgb)
        shapes.each do |left, top, width, height, colour|
          canvas = canvas.draw_rect(rgb(colour), left, top, width, [height, HEIGHT - top].min, fill: true)
        end
        canvas
      end
      private_class_method :draw

      def self.rgb(colour) = colour.scan(/\h\h/).map(&:hex)
      private_class_method :rgb
    end
  end
end
