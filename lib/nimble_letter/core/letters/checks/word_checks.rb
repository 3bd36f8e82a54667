# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      module Checks
        # How the letter reads, and words that filters dislike.
        module WordChecks
          # English phrases that filters and readers take for a circular; kept short on purpose.
          DISLIKED = [
            "act now",
            "risk-free",
            "risk free",
            "100% free",
            "free gift",
            "limited time",
            "click here",
            "click below",
            "guaranteed",
            "no obligation",
            "winner",
            "congratulations",
            "urgent",
            "once in a lifetime",
            "order now",
            "buy now",
            "cheap",
            "cash bonus",
            "double your",
            "this is not spam",
            "dear friend",
            "dear sir or madam",
            "don't miss out",
            "last chance"
          ].freeze
          LONG_SENTENCE = 30 # words; beyond it readers lose the beginning
          LONG_MINUTES = 2

          # @param given [Given]
          # @return [Array<Advice>]
          def self.call(given) = disliked(given) + [sentence(given), long(given), spaced(given)].compact

          def self.disliked(given)
            {"subject" => given.subject, "body" => given.body}.flat_map do |part, document|
              words = document.summary.tr("’", "'")
              DISLIKED.filter_map do |phrase|
                found = words[/\b#{Regexp.escape(phrase)}\b/i] or next
                Checks.advice(
                  "disliked_words",
                  "“#{found}” is a phrase that filters count against a letter.",
                  "Say it the way you would to one person.",
                  part: part,
                  excerpt: found
                )
              end
            end
          end
          private_class_method :disliked

          def self.sentence(given)
            longest =
              given
                .body
                .blocks
                .flat_map { |block| Summary.of(block, given.catalogue).split(/(?<=[.?!:])\s+/) }
                .max_by { |one| one.split.size } or return
            size = longest.split.size
            if size > LONG_SENTENCE
              Checks.advice(
                "long_sentence",
                "One sentence has #{size} words.",
                "Above #{LONG_SENTENCE}, people begin it twice.",
                excerpt: longest[0, 60]
              )
            end
          end
          private_class_method :sentence

          def self.long(given)
            minutes = given.body.reading_minutes
            if minutes > LONG_MINUTES
              Checks.advice(
                "long_letter",
                "It takes about #{minutes} minutes to read.",
                "A letter to somebody at work is read in one, or later, or not.",
                count: minutes
              )
            end
          end
          private_class_method :long

          def self.spaced(given)
            found = given.body.summary[/\b(?:\p{L}\s){3,}\p{L}\b/] or return
            Checks.advice(
              "spaced_letters",
              "“#{found}” is spaced out letter by letter.",
              "Filters know this as a way to hide words.",
              excerpt: found
            )
          end
          private_class_method :spaced
        end
      end
    end
  end
end
