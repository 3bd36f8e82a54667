# frozen_string_literal: true

module NimbleLetter
  module Web
    # What was set aside, as the contract has it.
    module SetAsideJson
      COLUMNS = %i[id kind reason tries first_at last_at again].freeze
      REASONS = 4

      # @param things [Array<Records::SetAside>]
      def self.rows(things)
        deliveries =
          Records::Delivery
            .where(id: things.map(&:delivery_id).compact)
            .eager(:sequence, :letter, :person)
            .all
            .to_h { |delivery| [delivery.id, delivery] }
        things.map { |thing| row(thing, deliveries[thing.delivery_id]) }
      end

      # @return [Hash] how many, and the reasons most of them have
      def self.in_short
        things = Records::SetAside.dataset
        reasons = things.unordered.group_and_count(:kind, :reason).order(Sequel.desc(:count), :kind, :reason).limit(REASONS).all
        {total: things.count, reasons: reasons.map { |row| row.values.slice(:kind, :reason, :count) }}
      end

      def self.whole(thing) = {**thing.values.slice(:id, :reason, :detail), source: source(thing)}

      # Bytes of somebody else's making, as text.
      def self.source(thing) = thing.source&.dup&.force_encoding(Encoding::UTF_8)&.scrub("�")&.delete("\u0000")
      private_class_method :source

      # @return [String, nil] from whom and about what, as far as the beginning says so
      def self.about(thing)
        text = source(thing) or return
        lines = %w[From Subject].filter_map { |name| text[/^#{name}:[ \t]*([^\r\n]{1,120})/i, 1]&.strip }
        lines.join(" · ") unless lines.empty?
      end
      private_class_method :about

      def self.row(thing, delivery)
        person = delivery&.person || (Records::Person[thing.key] if thing.kind == Work::SweepNoes::KIND)
        {
          **thing.values.slice(*COLUMNS),
          about: about(thing),
          person: person && {id: person.id, name: person.name},
          letter: delivery&.letter&.name,
          sequence: delivery && {id: delivery.sequence_id, name: delivery.sequence.name},
          gap: thing.lacks && {step_id: delivery.step_id, fields: thing.lacks.split(",")}
        }
      end
      private_class_method :row
    end
  end
end
