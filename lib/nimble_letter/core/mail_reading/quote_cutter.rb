# frozen_string_literal: true

module NimbleLetter
  module Core
    module MailReading
      # What somebody wrote, without the letter they answer and without their signature. Reads line by line, each line once
      # and only so far, so that no text can keep it busy.
      module QuoteCutter
        MOST = 200_000 # characters read
        LINE = 300 # characters of a line that are looked at
        ATTRIBUTION_LINES = 3
        QUOTED = /\A\s{0,3}>/
        # "On 3 May 2026, Maren Holt wrote:", in the languages our letters are written in.
        ATTRIBUTION = /
          \A\s*(on|am|le|el|il|op|em|no\ dia|w\ dniu|dnia|den)\b.*
          \b(wrote|schrieb|a\ écrit|escribió|ha\ scritto|schreef|escreveu|napisał\w*)\b[^:]{0,80}:\s*\z
        /ix
        OPENS = /\A\s*(on|am|le|el|il|op|em|no dia|w dniu|dnia|den)\b/i
        SEPARATOR = /
          \A\s*-{2,}\s*(original\ message|forwarded\ message|ursprüngliche\ nachricht|message\ d['’]origine|mensaje\ original|
          messaggio\ originale|oorspronkelijk\ bericht|mensagem\ original|wiadomość\ oryginalna)\s*-{2,}\s*\z
        /ix
        # The head of an answered message, set above it without a mark.
        FROM = /\A\s*\*?(from|von|de|da|van|od)\*?\s*:\*?\s/i
        HEAD = /\A\s*\*?(sent|date|gesendet|datum|envoyé|fecha|enviado|inviato|data|verzonden|wysłano|to|an|à|para|a|aan|do|subject|
          betreff|objet|asunto|oggetto|onderwerp|assunto|temat)\*?\s*:\*?\s/ix
        HEAD_LINES = 4
        SIGNATURE = /\A-- ?\z/
        SENT_FROM = /\A\s*(sent from my|von meinem .{1,30} gesendet|envoyé de mon|enviado desde mi|inviato da|verstuurd vanaf) ?/i

        # @param text [String]
        # @return [String] what was written; the whole text when all of it is a quote
        def self.call(text)
          whole = text.to_s[0, MOST].gsub(/\r\n?/, "\n")
          lines = whole.split("\n")
          own = without_signature(own_lines(lines)).join("\n").strip
          own.empty? ? whole.strip : own
        end

        def self.own_lines(lines)
          start = lines.index.with_index { |_, i| quote_begins?(lines, i) }
          return without_trailing_quote(lines) unless start

          after = lines.drop(start).drop_while { |line| !line[0, LINE].match?(QUOTED) }
          # Written below the letter it answers, or between its lines.
          answered = after.chunk_while { |a, b| quoted?(a) == quoted?(b) }.to_a
          below = answered.last(1).reject { |chunk| quoted?(chunk.first) || blank?(chunk) }.flatten
          return lines.take(start) if below.empty?

          (answered.count { |chunk| quoted?(chunk.first) } > 1) ? lines.take(start) + after : lines.take(start) + below
        end
        private_class_method :own_lines

        def self.without_trailing_quote(lines)
          kept = lines.dup
          kept.pop while kept.any? && (quoted?(kept.last) || kept.last.strip.empty?)
          kept
        end
        private_class_method :without_trailing_quote

        def self.without_signature(lines)
          at = lines.index { |line| line.match?(SIGNATURE) || line[0, LINE].match?(SENT_FROM) }
          # Somebody whose whole answer is below such a line wrote it there.
          (at && lines.take(at).any? { |line| !line.strip.empty? }) ? lines.take(at) : lines
        end
        private_class_method :without_signature

        def self.quote_begins?(lines, at)
          line = lines[at][0, LINE]
          return true if line.match?(SEPARATOR)
          return lines[at + 1, HEAD_LINES].to_a.count { |next_line| next_line[0, LINE].match?(HEAD) } >= 2 if line.match?(FROM)

          # Mail programs break the line that says who wrote.
          line.match?(OPENS) &&
            (1..ATTRIBUTION_LINES).any? { |n| lines[at, n].map { |part| part[0, LINE].strip }.join(" ").match?(ATTRIBUTION) }
        end
        private_class_method :quote_begins?

        def self.quoted?(line) = line[0, LINE].match?(QUOTED)
        private_class_method :quoted?

        def self.blank?(chunk) = chunk.all? { |line| line.strip.empty? }
        private_class_method :blank?
      end
    end
  end
end
