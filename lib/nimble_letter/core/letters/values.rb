# frozen_string_literal: true

require "date"

module NimbleLetter
  module Core
    module Letters
      # How a value reads in a letter.
      module Values
        BREAKS = /[[:cntrl:]\u2028\u2029]+/
        PLAIN_BREAKS = /[\x00-\x1f\x7f]/ # the same among plain letters; seven times as quick

        # @return [String, nil] one line; nil when there is nothing to say
        def self.say(value)
          text = case value
          when nil then return
          when Date then value.strftime("%-d %B %Y")
          else value.to_s
          end
          # A name with a line break would otherwise reach the subject header (header injection).
          text = text.scrub("") unless text.valid_encoding?
          text = text.gsub(BREAKS, " ") if text.match?(text.ascii_only? ? PLAIN_BREAKS : BREAKS)
          text = text.strip
          text.empty? ? nil : text
        end
      end
    end
  end
end
