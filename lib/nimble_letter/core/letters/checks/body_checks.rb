# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      module Checks
        # Links, buttons and pictures.
        module BodyChecks
          HERE = /\A(here|click here|this|link|read more|more|hier|ici|aquí|qui) ?[.!]?\z/i
          FEW_WORDS = 20 # beside a picture; below it, a reader who does not load pictures sees next to nothing

          # @param given [Given]
          # @return [Array<Advice>]
          def self.call(given) = links(given) + buttons(given) + pictures(given) + marks(given)

          def self.links(given)
            given.body.each_node.select { |node| node["type"] == "text" && linked?(node) && node["text"].strip.match?(HERE) }.map do |node|
              Checks.advice(
                "link_says_here",
                "A link says only “#{node["text"].strip}”.",
                "Somebody who listens to the letter, or skims it, learns nothing from that word.",
                excerpt: node["text"]
              )
            end
          end
          private_class_method :links

          def self.linked?(node) = (node["marks"] || []).any? { |mark| mark["type"] == "link" }
          private_class_method :linked?

          # What a file said is for some people only is for nobody until somebody says for whom; its marks are no words to send.
          def self.marks(given)
            given.texts.flat_map { |text| text.each_node.to_a }.select { |node| FileMarks.mark?(node) }.map do |node|
              words = Summary.of(node, given.catalogue).strip
              Checks.advice(
                "mark_of_a_file",
                "“#{words}” is the mark of a file.",
                "Say for whom this part is, then take the line out. Until then nobody gets the part.",
                excerpt: words,
                blocking: true
              )
            end
          end
          private_class_method :marks

          def self.buttons(given)
            given.texts.flat_map { |text| text.each_node.to_a }.select { |node| node["type"] == "button" }.flat_map do |node|
              words = Summary.of(node, given.catalogue).strip
              [
                (
                  if node["attrs"]["href"].empty?
                    Checks.advice(
                      "empty_link",
                      "The button “#{words}” leads nowhere.",
                      "Nobody could follow it.",
                      excerpt: words,
                      blocking: true
                    )
                  end
                ),
                (
                  if words.empty?
                    Checks.advice("button_without_words", "A button has no words.", "It would be an empty box.", blocking: true)
                  end
                )
              ].compact
            end
          end
          private_class_method :buttons

          def self.pictures(given)
            found = given.body.each_node.select { |node| node["type"] == "picture" }
            silent = found.count { |node| node["attrs"]["alt"].empty? }
            [
              (
                if silent.positive?
                  Checks.advice(
                    "no_alt",
                    "#{(silent == 1) ? "A picture has" : "#{silent} pictures have"} no words in its place.",
                    "Many programs load pictures only when asked, and some people listen to their mail.",
                    count: silent
                  )
                end
              ),
              (
                if found.any? && given.body.summary.split.size < FEW_WORDS
                  Checks.advice(
                    "only_pictures",
                    "The letter is nearly all picture.",
                    "Without its pictures there is little to read, and filters distrust such letters."
                  )
                end
              )
            ].compact
          end
          private_class_method :pictures
        end
      end
    end
  end
end
