# frozen_string_literal: true

require "cgi/util"

module NimbleLetter
  module Core
    module Letters
      # Writes a merged letter as HTML that mail programs read: tables for the frame, styles in each element, no script,
      # nothing fetched but pictures and the pixel. Everything that comes from a record or a keyboard is escaped here.
      class HtmlWriter
        # How a link, a picture and a merged run are written. A link's address may be the tracked one.
        # link: ->(href); picture: ->(id) {url:, width:, height:} or nil; mark: ->(run, html) html, for screens
        def initialize(
          styles: Styles::NONE,
          designed: false,
          link: ->(href) { href },
          picture: ->(_id) {},
          pixel_url: nil,
          mark: nil,
          head: ""
        )
          @styles, @designed, @link, @picture, @pixel_url, @mark, @head = styles, designed, link, picture, pixel_url, mark, head
        end

        # @param merged [Merged]
        # @param signature [Array<Merged::Block>] of whoever it comes from
        # @param foot [Foot] postal address and the way out
        # @param brand [Hash, nil] the firm's name and picture_id, at the top of a designed letter
        # @return [String]
        def write(merged, signature: [], foot: nil, brand: nil)
          @signature, @foot = signature, foot
          inner = body(merged.blocks)
          "<!doctype html>\n<html lang=\"#{h(merged.language)}\"><head><meta charset=\"utf-8\">" \
            "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">" \
            "#{head}<title>#{h(TextWriter.line(merged.subject))}</title></head>\n<body#{@styles[:body]}>#{preheader(merged)}" \
            "#{@designed ? frame(inner, brand) : inner}#{pixel}</body></html>\n"
        end

        private

        def head
          return @head unless @designed

          %(<meta name="color-scheme" content="light dark"><meta name="supported-color-schemes" content="light dark">) +
            %(<style>#{Stylesheet.dark} #{Stylesheet.narrow}</style>#{@head})
        end

        # Read by the inbox beside the subject, by nobody in the letter.
        def preheader(merged)
          words = TextWriter.line(merged.preview)
          words.empty? ? "" : %(<div style="display:none;max-height:0;overflow:hidden">#{h(words)}</div>\n)
        end

        def body(blocks)
          parts = blocks.map { |block| block(block) }
          parts << signature unless blocks.any? { |block| block.kind == :signature }
          parts << foot unless blocks.any? { |block| block.kind == :footer }
          parts.reject(&:empty?).join("\n")
        end

        def frame(inner, brand)
          logo = brand ? %(<tr><td#{@styles[:logo]}>#{logo(brand)}</td></tr>\n) : ""
          %(<table role="presentation" cellpadding="0" cellspacing="0" border="0"#{@styles[:page]}><tr><td#{@styles[:page_cell]}>\n) +
            %(<table role="presentation" cellpadding="0" cellspacing="0" border="0"#{@styles[:sheet]}>\n) +
            %(#{logo}<tr><td#{@styles[:content]}>\n#{inner}\n</td></tr></table>\n</td></tr></table>)
        end

        def logo(brand)
          picture = brand[:picture_id] && @picture.call(brand[:picture_id])
          picture ? %(<img src="#{h(picture[:url])}" alt="#{h(brand[:name])}" height="40"#{@styles[:picture]}>) : h(brand[:name])
        end

        def block(block)
          case block.kind
          when :paragraph then "<p#{@styles[:paragraph]}>#{runs(block.runs)}</p>"
          when :personal then "<p#{@styles[:paragraph]}>#{@mark ? @mark.call(block, runs(block.runs)) : runs(block.runs)}</p>"
          when :heading then block.attrs[:level].then { |level| "<h#{level}#{@styles[:"h#{level}"]}>#{runs(block.runs)}</h#{level}>" }
          when :list then list(block)
          when :quote then "<blockquote#{@styles[:quote]}>#{inside(block)}</blockquote>"
          when :divider then "<hr#{@styles[:divider]}>"
          when :picture then picture(block)
          when :button then button(block)
          when :links then "<p#{@styles[@designed ? :links : :paragraph]}>#{runs(block.runs)}</p>"
          when :columns then columns(block)
          when :signature then signature
          when :footer then foot
          end
        end

        def inside(block) = block.blocks.map { |child| block(child) }.join("\n")

        # A list item with one paragraph is written without it, as people write lists.
        def list(block)
          tag = block.attrs[:ordered] ? "ol" : "ul"
          items = block.blocks.map do |item|
            first, *rest = item.blocks
            lead = if first&.kind == :paragraph
              runs(first.runs)
            else
              (first ? block(first) : "")
            end
            others = rest.map { |child| (child.kind == :paragraph) ? "<br>#{runs(child.runs)}" : block(child) }
            "<li#{@styles[:li]}>#{lead}#{others.join}</li>"
          end
          "<#{tag}#{@styles[tag.to_sym]}>#{items.join}</#{tag}>"
        end

        def picture(block)
          found = @picture.call(block.attrs[:picture_id]) or return "<p#{@styles[:paragraph]}>#{runs(block.attrs[:alt])}</p>"
          width = [found[:width], Stylesheet::WIDTH].min * block.attrs[:width] / 100
          image = %(<img src="#{h(found[:url])}" alt="#{h(TextWriter.line(block.attrs[:alt]))}" width="#{width}"#{@styles[:picture]}>)
          "<p#{@styles[:paragraph]}>#{block.attrs[:href] ? %(<a href="#{h(@link.call(block.attrs[:href]))}">#{image}</a>) : image}</p>"
        end

        def button(block)
          words, href = runs(block.runs), block.attrs[:href]
          return "<p#{@styles[:paragraph]}>#{words}</p>" unless href
          return %(<p#{@styles[:paragraph]}><a href="#{h(@link.call(href))}"#{@styles[:link]}>#{words}</a></p>) unless @designed

          %(<table role="presentation" cellpadding="0" cellspacing="0" border="0"#{@styles[:button_table]}><tr><td#{@styles[:button]}>) +
            %(<a href="#{h(@link.call(href))}"#{@styles[:button_link]}>#{words}</a></td></tr></table>)
        end

        def columns(block)
          return block.blocks.map { |column| inside(column) }.join("\n") unless @designed

          cells = block.blocks.map { |column| "<td#{@styles[:column]}>#{inside(column)}</td>" }
          %(<table role="presentation" cellpadding="0" cellspacing="0" border="0"#{@styles[:columns]}><tr>#{cells.join}</tr></table>)
        end

        def runs(runs) = runs.map { |run| run(run) }.join

        def run(run)
          return "<br>" if run.kind == :break

          html = h(run.text)
          unless run.marks.empty?
            html = "<strong>#{html}</strong>" if run.marks.include?("bold")
            html = "<em>#{html}</em>" if run.marks.include?("italic")
          end
          html = @mark.call(run, html) if @mark
          return html unless run.href

          %(<a href="#{h(@link.call(run.href))}"#{%( title="#{h(run.title)}") if run.title}#{@styles[:link]}>#{html}</a>)
        end

        def signature = @signature.map { |block| block(block) }.join("\n")

        def foot
          return "" unless @foot

          way_out = @foot.unsubscribe_url ? %( · <a href="#{h(@foot.unsubscribe_url)}"#{@styles[:foot_link]}>#{h(@foot.words)}</a>) : ""
          "<p#{@styles[:foot]}>#{h(@foot.address)}#{way_out}</p>"
        end

        def pixel = @pixel_url ? %(<img src="#{h(@pixel_url)}" width="1" height="1" alt="" style="display:block">) : ""

        def h(text) = CGI.escapeHTML(text.to_s)
      end
    end
  end
end
