# frozen_string_literal: true

require "cgi/util"

module NimbleLetter
  module Core
    module Letters
      # Shows on our own screens where in a letter something was put in: a value, a fallback, a gap, a line of one's own.
      class Marking
        # @param catalogue [Fields::Catalogue]
        def initialize(catalogue)
          @catalogue = catalogue
        end

        # @param part [Merged::Run, Merged::Block]
        # @param html [String] escaped
        # @return [String]
        def call(part, html)
          case part.kind
          when :merged
            %(<span class="nl-merged" title="#{label(part)}">#{html}</span>)
          when :fallback
            %(<span class="nl-fallback" title="#{label(part)}: nothing there, so this">#{html}</span>)
          when :gap
            %(<span class="nl-gap" role="button" tabindex="0" data-gap="#{CGI.escapeHTML(part.field)}">) +
              %(#{within(part)} is missing, write it here</span>)
          when :personal
            %(<span class="nl-personal">#{html}</span>)
          else
            html
          end
        end

        # In an iframe of ours only; a letter that goes out has none of it. Ink with each ground: the letter around it may be dark.
        CSS =
          ".nl-merged{background:#d8ece9;color:#1e2a2e;border-radius:2px;padding:0 3px;box-decoration-break:clone}" \
          ".nl-fallback{border-bottom:1px dotted #a86e0b}" \
          ".nl-gap{background:#fbe3dd;color:#a8301c;border-radius:2px;padding:0 4px;font-size:.9em;" \
          "text-decoration:underline;cursor:pointer}" \
          ".nl-personal{background:#f5ead6;color:#1e2a2e;border-left:2px solid #a86e0b;padding:0 4px;box-decoration-break:clone}"

        private

        def within(run) = CGI.escapeHTML(Fields::Field.within_sentence(@catalogue[run.field]&.label.to_s))

        def label(run) = CGI.escapeHTML(@catalogue[run.field]&.label.to_s)
      end
    end
  end
end
