# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # The styles of a letter, written as one reads them. Mail programs drop stylesheets, so they are written
      # into each element once a look; PARTS says which elements there are.
      module Stylesheet
        # Part => the element it is, with what it needs beside its style.
        PARTS = {
          body: "body",
          page: "table", page_cell: "td", sheet: "table", content: "td", logo: "td",
          paragraph: "p", h1: "h1", h2: "h2", h3: "h3", ul: "ul", ol: "ol", li: "li", quote: "blockquote", divider: "hr",
          picture: "img", link: "a", button_table: "table", button: "td", button_link: "a", links: "p",
          columns: "table", column: "td", foot: "p", foot_link: "a"
        }.freeze
        # "Typed to one person": what the reader's own program would use.
        SYSTEM = "-apple-system, 'Segoe UI', Roboto, Helvetica, Arial, sans-serif"
        WIDTH = 600 # pixels; what the narrowest reading panes on desks show whole

        # @param look [Look]
        # @param designed [Boolean]
        # @return [String] CSS, one rule a part
        def self.css(look, designed:)
          shared(designed ? look["accent"] : "#0b57d0") + (designed ? designed(look) : plain)
        end

        # In a dark scheme the paper turns round; clients that know the media query use it, the others turn colours themselves.
        def self.dark
          "@media (prefers-color-scheme: dark) { body, .page, .page_cell { background: #16191a !important } " \
            ".sheet, .content, .logo { background: #1f2426 !important } " \
            ".content, .content p, .content li, .content h1, .content h2, .content h3, .content td, .foot { color: #e6e3dc !important } " \
            ".logo, .content p a { color: #8fc7c0 !important } }"
        end

        # On a phone the sheet is as wide as the screen, and two columns stand one below the other.
        def self.narrow =
          "@media (max-width: 640px) { .sheet { width: 100% !important } .page_cell { padding: 0 !important } } " \
            "@media (max-width: 480px) { .column { display: block !important; width: 100% !important; padding: 0 !important } " \
            ".content { padding: 20px 18px !important } .logo { padding: 20px 18px 0 18px !important } }"

        def self.shared(accent)
          <<~CSS
            .paragraph { margin: 0 0 1em 0 }
            .h1 { margin: 0 0 .6em 0; font-size: 26px; line-height: 1.25; font-weight: 600 }
            .h2 { margin: 1.2em 0 .5em 0; font-size: 20px; line-height: 1.3; font-weight: 600 }
            .h3 { margin: 1em 0 .4em 0; font-size: 16px; line-height: 1.35; font-weight: 600 }
            .ul, .ol { margin: 0 0 1em 0; padding: 0 0 0 1.4em }
            .li { margin: 0 0 .25em 0 }
            .picture { display: block; max-width: 100%; height: auto; border: 0 }
            .link { color: #{accent}; text-decoration: underline }
          CSS
        end
        private_class_method :shared

        def self.plain
          <<~CSS
            .body { margin: 0; padding: 16px; font-family: #{SYSTEM}; font-size: 15px; line-height: 1.5; color: #1a1a1a }
            .quote { margin: 0 0 1em 0; padding: 0 0 0 12px; border-left: 2px solid #cccccc }
            .divider { border: 0; border-top: 1px solid #cccccc; margin: 1.2em 0 }
            .foot { margin: 2em 0 0 0; font-size: 12px; line-height: 1.5; color: #6b6f6d }
            .foot_link { color: #6b6f6d }
          CSS
        end
        private_class_method :plain

        def self.designed(look)
          <<~CSS
            .body { margin: 0; padding: 0; background-color: #{look["page"]} }
            .page { width: 100%; background-color: #{look["page"]} }
            .page_cell { padding: 24px 12px; text-align: center }
            .sheet { width: #{WIDTH}px; max-width: 100%; margin: 0 auto; background-color: #{look["sheet"]}; text-align: left }
            .logo { padding: 28px 40px 0 40px; font-family: #{look.font}; font-size: 18px; font-style: italic; color: #{look["accent"]} }
            .content { padding: 28px 40px 32px 40px; font-family: #{look.font}; font-size: 16px; line-height: 1.55; color: #{look["ink"]} }
            .quote { margin: 0 0 1em 0; padding: 2px 0 2px 18px; border-left: 3px solid #{look["accent"]}; font-style: italic }
            .divider { border: 0; border-top: 1px solid #d9d4c7; margin: 1.6em 0 }
            .button_table { margin: .4em 0 1.4em 0 }
            .button { background-color: #{look["accent"]}; border-radius: 3px; padding: 12px 22px; text-align: center }
            .button_link { color: #{look["on_accent"]}; font-family: #{look.font};
              font-size: 16px; font-weight: 600; text-decoration: none }
            .links { margin: 0 0 1em 0; text-align: center; font-size: 14px }
            .columns { width: 100% }
            .column { width: 50%; padding: 0 20px 0 0; vertical-align: top }
            .foot { margin: 2em 0 0 0; padding: 14px 0 0 0; border-top: 1px solid #d9d4c7;
              font-size: 12px; line-height: 1.5; color: #5f6664 }
            .foot_link { color: #5f6664 }
          CSS
        end
        private_class_method :designed
      end
    end
  end
end
