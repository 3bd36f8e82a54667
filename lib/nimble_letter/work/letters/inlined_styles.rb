# frozen_string_literal: true

require "cgi/util"
require "nokogiri"
require "premailer"

module NimbleLetter
  module Work
    # Writes a look's stylesheet into the elements of a letter, the way mail programs need it. Premailer does it once for a
    # page that has one element of each part; letters then take each part's attributes from there.
    module InlinedStyles
      # Kept as class names too, since the rules for phones and dark schemes look for them.
      NAMED = %i[page page_cell sheet content logo column foot].freeze
      @kept = {}

      class << self
        # @param look [Core::Letters::Look]
        # @param designed [Boolean]
        # @return [Core::Letters::Styles]
        def of(look, designed:) = @kept[[look, designed]] ||= Core::Letters::Styles.new(attributes(look, designed))

        private

        def attributes(look, designed)
          elements = Core::Letters::Stylesheet::PARTS.map { |part, tag| [part, sample(part, tag)] }
          page =
            "<html><head><style>#{Core::Letters::Stylesheet.css(look, designed: designed)}</style></head><body>" \
            "#{elements.map(&:last).join}</body></html>"
          inlined =
            Nokogiri.HTML(
              Premailer.new(
                page,
                with_html_string: true,
                adapter: :nokogiri,
                include_link_tags: false,
                css_to_attributes: true
              ).to_inline_css
            )
          elements.to_h do |part, _|
            node = inlined.at_css("[data-part=#{part}]")
            given = node.attributes.except("class", "data-part").transform_values(&:value)
            given["class"] = part.to_s if designed && NAMED.include?(part)
            [part, given.map { |name, value| %( #{name}="#{CGI.escapeHTML(value)}") }.join]
          end
        end

        # A cell stands in a table, a row and a body of its own, or the parser throws it out.
        def sample(part, tag)
          return "<div class=\"body\" data-part=\"body\"></div>" if part == :body

          element = "<#{tag} class=\"#{part}\" data-part=\"#{part}\">x</#{tag}>"
          if tag == "td"
            "<table><tr>#{element}</tr></table>"
          else
            ((tag == "table") ? "<table class=\"#{part}\" data-part=\"#{part}\"><tr><td>x</td></tr></table>" : element)
          end
        end
      end
    end
  end
end
