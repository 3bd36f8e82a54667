# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      module Checks
        # What stands in the way of sending, or of arriving whole.
        module SendingChecks
          CUT_BYTES = 100 * 1024 # the best known web mail program cuts a letter at 102 kB and hides the rest, the way out too
          HEAVY_BYTES = 5 * 1024 * 1024

          # @param given [Given]
          # @return [Array<Advice>]
          def self.call(given) =
            [
              empty(given),
              deal(given),
              *unknown(given),
              *gaps(given),
              weight(given),
              heavy(given),
              address(given),
              *contrast(given)
            ].compact

          def self.empty(given)
            if given.body.empty?
              Checks.advice("no_text", "There is nothing to read in it.", "An empty letter is not sent.", blocking: true)
            end
          end
          private_class_method :empty

          def self.deal(given)
            return if given.for_deal

            key =
              [given.subject, given.preview, *given.texts].flat_map(&:merge_fields)
                .map { |node| node["attrs"]["field"] }
                .find { |one| one.start_with?("deal.") } or return
            Checks.advice(
              "deal_field",
              "It names a deal (“#{given.catalogue[key].label.downcase}”) but is written for anybody.",
              "Not everybody has a deal. Say that it is written for people with one, or take the field out.",
              excerpt: given.catalogue[key].label.downcase,
              blocking: true
            )
          end
          private_class_method :deal

          def self.unknown(given)
            typed = TypedFields.new(given.catalogue)
            [
              ["subject", given.subject],
              ["preview", given.preview],
              *given.texts.map { |text| ["body", text] }
            ].flat_map do |part, document|
              document.unknown_names.map do |name|
                near = typed.nearest(name)
                Checks.advice(
                  "unknown_field",
                  "There is no field “#{name[0, 60]}”.#{" Did you mean “#{near.label.downcase}”?" if near}",
                  "It would go out just as it stands there, braces and all.",
                  part: part,
                  excerpt: name,
                  blocking: true
                )
              end
            end
          end
          private_class_method :unknown

          def self.gaps(given)
            given.gaps.map do |key, (count, at_most)|
              label = given.catalogue[key]&.label&.downcase || key
              people = (count == 1) ? "1 person has" : "#{count} people have"
              Checks.advice(
                "gap",
                "#{"Up to " if at_most}#{people} no #{label} where it is asked for, and it has no fallback.",
                "A letter with a gap is not sent until it is filled.#{" How many depends on what a service says that day." if at_most}",
                excerpt: label,
                count: count,
                field: key
              )
            end
          end
          private_class_method :gaps

          def self.weight(given)
            return unless given.html_bytes > CUT_BYTES

            Checks.advice(
              "cut_off",
              "It weighs #{given.html_bytes / 1024} kB.",
              "Mail programs cut a letter at about 100 kB, and what is below, the way out included, is not seen."
            )
          end
          private_class_method :weight

          def self.heavy(given)
            return unless given.attachment_bytes.to_i > HEAVY_BYTES

            Checks.advice(
              "heavy",
              "What goes with it weighs #{given.attachment_bytes / 1024 / 1024} MB.",
              "Many servers turn such letters away; a link reaches more people."
            )
          end
          private_class_method :heavy

          def self.address(given)
            return unless given.postal_address.to_s.strip.empty?

            Checks.advice(
              "no_postal_address",
              "The firm has no postal address yet.",
              "Every letter names it, and in many countries the law wants it. Write it under Settings.",
              part: "firm",
              blocking: true
            )
          end
          private_class_method :address

          def self.contrast(given)
            return [] unless given.designed

            given.contrasts.reject { |pair| pair[:enough] }.map do |pair|
              Checks.advice(
                "contrast",
                "#{pair[:what]} is hard to read: #{pair[:ratio]} to 1.",
                "At least #{Look::ENOUGH} to 1 is needed. The look is set under Settings.",
                part: "firm"
              )
            end
          end
          private_class_method :contrast
        end
      end
    end
  end
end
