# frozen_string_literal: true

require "cgi/util"

module NimbleLetter
  module Core
    module Letters
      # Writes a merged letter as HTML that mail programs read: inline styles, no script, nothing fetched but the pixel.
      class HtmlWriter
        PARAGRAPH = "margin:0 0 1em 0"
        FOOT = "margin:2em 0 0 0;font-size:12px;color:#6b6f6d"
        BODY = "margin:0;padding:24px;font-family:Georgia,'Times New Roman',serif;font-size:16px;line-height:1.5;color:#1e2a2e"

        # @param link [#call] address to the one that goes out (tracked), e.g. ->(href) { href }
        # @param pixel_url [String, nil]
        def initialize(link: ->(href) { href }, pixel_url: nil)
          @link, @pixel_url = link, pixel_url
        end

        # @param merged [Merge::Merged]
        # @param signature [Array<String>] lines
        # @param foot [Foot] postal address and the way out
        # @return [String]
        def write(merged, signature: [], foot: nil)
          <<~HTML
            <!doctype html>
            <html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
            <title>#{h(TextWriter.line(merged.subject))}</title></head>
            <body style="#{BODY}"><div style="display:none;max-height:0;overflow:hidden">#{h(TextWriter.line(merged.preview))}</div>
            <div style="max-width:600px">
            #{merged.blocks.map { |block| block(block) }.join("\n")}
            #{signature(signature)}#{foot_html(foot) if foot}</div>#{pixel}</body></html>
          HTML
        end

        private

        def block(block)
          case block.kind
          when :heading then %(<h2 style="margin:1.2em 0 .5em 0;font-size:20px;font-weight:600">#{runs(block.runs)}</h2>)
          when :list then list(block)
          else %(<p style="#{PARAGRAPH}">#{runs(block.runs)}</p>)
          end
        end

        def list(block)
          tag = block.ordered ? "ol" : "ul"
          %(<#{tag} style="margin:0 0 1em 0;padding-left:1.4em">#{block.items.map { |item| "<li>#{runs(item)}</li>" }.join}</#{tag}>)
        end

        def runs(runs) = runs.map { |run| run(run) }.join

        def run(run)
          return "<br>" if run.kind == :break

          html = h(run.text)
          html = "<strong>#{html}</strong>" if run.marks.include?("bold")
          html = "<em>#{html}</em>" if run.marks.include?("italic")
          run.href ? %(<a href="#{h(@link.call(run.href))}" style="color:#0e5a55">#{html}</a>) : html
        end

        def signature(lines)
          return "" if lines.empty?

          %(<p style="#{PARAGRAPH}">#{lines.map { |line| h(line) }.join("<br>")}</p>\n)
        end

        def foot_html(foot)
          way_out = foot.unsubscribe_url ? %( · <a href="#{h(foot.unsubscribe_url)}" style="color:#6b6f6d">#{h(foot.unsubscribe_words)}</a>) : ""
          %(<p style="#{FOOT}">#{h(foot.address)}#{way_out}</p>)
        end

        def pixel
          @pixel_url ? %(<img src="#{h(@pixel_url)}" width="1" height="1" alt="" style="display:block">) : ""
        end

        def h(text) = CGI.escapeHTML(text.to_s)
      end
    end
  end
end
