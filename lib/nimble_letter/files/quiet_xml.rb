# frozen_string_literal: true

require "roo"

module NimbleLetter
  module Files
    # Roo's walk over the elements of a part, which leaves the part closed and tells nothing to the log: libxml2 writes the line it
    # stumbles over there, with people's data in it, unless it is told not to.
    module QuietXml
      OPTIONS = Nokogiri::XML::ParseOptions::NOBLANKS | Nokogiri::XML::ParseOptions::NOERROR | Nokogiri::XML::ParseOptions::NOWARNING

      # @param path [String] of a part
      # @param elements [String, Array<String>] names
      def each_element(path, elements)
        elements = Array(elements)
        File.open(path, "rb") do |file|
          Nokogiri::XML::Reader(file, nil, nil, OPTIONS).each do |node|
            next unless node.node_type == Nokogiri::XML::Reader::TYPE_ELEMENT && elements.include?(node.name)

            yield Nokogiri::XML(node.outer_xml, nil, nil, OPTIONS).root
          end
        end
      end

      def self.load! = ::Roo::Utils.singleton_class.prepend(self)
    end
  end
end
