# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      module Checks
        # The two lines an inbox shows.
        module SubjectChecks
          LONG = 60 # characters; phones cut between 35 and 60
          SHOUT = 4 # letters in a row

          # @param given [Given]
          # @return [Array<Advice>]
          def self.call(given)
            subject, preview = given.subject.summary.strip, given.preview.summary.strip
            if subject.empty?
              return [
                Checks.advice("no_subject", "There is no subject.", "A letter without one is not sent.", part: "subject", blocking: true)
              ]
            end

            [length(subject), shouting(subject), marks(subject), (missing if preview.empty?), (same if preview == subject)].compact
          end

          def self.length(subject)
            return unless subject.length > LONG

            Checks.advice(
              "long_subject",
              "The subject has #{subject.length} characters.",
              "Phones show 35 to #{LONG}; the rest is cut off.",
              part: "subject",
              excerpt: subject[LONG..]
            )
          end
          private_class_method :length

          def self.shouting(subject)
            shouted = subject.gsub(/\[[^\]]*\]/, "").scan(/\b[[:upper:]]{#{SHOUT},}\b/o)
            return if shouted.empty?

            Checks.advice(
              "shouting",
              "“#{shouted.first}” is written in capitals.",
              "Capitals read as shouting, and filters count them.",
              part: "subject",
              excerpt: shouted.first
            )
          end
          private_class_method :shouting

          def self.marks(subject)
            return unless subject.match?(/!!|\?\?|!\?|!\z/)

            Checks.advice(
              "exclaiming",
              "The subject exclaims.",
              "Exclamation marks are the first thing filters and tired readers turn away from.",
              part: "subject",
              excerpt: subject[/[!?]+/]
            )
          end
          private_class_method :marks

          def self.missing =
            Checks.advice(
              "no_preview",
              "There is no preview line.",
              "The inbox then shows the first words of the letter, often only the greeting.",
              part: "preview"
            )
          private_class_method :missing

          def self.same =
            Checks.advice(
              "preview_repeats",
              "The preview line repeats the subject.",
              "It is the second thing read; it can say something more.",
              part: "preview"
            )
          private_class_method :same
        end
      end
    end
  end
end
