# frozen_string_literal: true

module NimbleLetter
  module Work
    # Asks outside services about the people of a letter, before it goes and for every preview. Answers are kept for the
    # day; a service that fails is left alone for a while, and its fields are then simply empty.
    class LookUp
      FRESH_SECONDS = 6 * 3600
      LEFT_ALONE_SECONDS = 60 # after a failure
      AT_ONCE = 6 # questions under way

      # @param services [Array<Core::Letters::Lookups::Service>]
      # @param moment [Moment] with its adapter
      def initialize(services, moment)
        @services, @moment = services, moment
      end

      # @param facts [Hash{Integer=>Hash{String=>Object}}] by person
      # @return [Array(Hash{Integer=>Hash}, Hash{Integer=>String})] what is known by person, and why something is not
      def call(facts)
        known, reasons = Hash.new { |all, id| all[id] = {} }, {}
        @services.each do |service|
          values = facts.transform_values { |one| Core::Letters::Values.clean(one[service.by]) }
          answers = answers(service, values.values.compact.uniq)
          values.each do |id, value|
            answer = answers[value] or next
            answer.known? ?
              known[id].merge!(service.answers.transform_values { |name| plain(answer.facts[name]) }) :
              reasons[id] = answer.reason
          end
        end
        [known, reasons]
      end

      private

      # Only plain values are taken from outside.
      def plain(value) = ([String, Integer, Float, TrueClass, FalseClass].any? { |kind| value.is_a?(kind) }) ? value : nil

      def answers(service, values)
        kept = kept(service, values)
        missing = values - kept.keys
        missing.empty? ? kept : kept.merge(asked(service, missing))
      end

      def kept(service, values)
        fresh, alone = Records.server_time - FRESH_SECONDS, Records.server_time - LEFT_ALONE_SECONDS
        rows(service).where(asked: values).all.filter_map do |row|
          next if row[:answered_at] < (row[:answer] ? fresh : alone)

          [row[:asked], row[:answer] ? Lookups::Answer.new(facts: JSON.parse(row[:answer])) : Lookups::Answer.failed(row[:reason])]
        end.to_h
      end

      def rows(service) = Records.db[:lookup_answers].where(lookup: service.name, for_day: @moment.today)

      # A service that is down costs one wait, not one for each city.
      def asked(service, values)
        down = nil
        values.each_slice(AT_ONCE).with_object({}) do |some, all|
          found =
            (
              if down
                some.to_h { |value| [value, down] }
              else
                some
                  .map { |value| [value, Thread.new { @moment.lookups.ask(service, value, @moment.today) }] }
                  .to_h { |value, asking| [value, asking.value] }
              end
            )
          down ||= found.values.find(&:down)
          keep(service, found)
          all.merge!(found)
        end
      end

      def keep(service, found)
        found.each do |value, answer|
          row = {
            answer: answer.facts && JSON.generate(answer.facts),
            reason: answer.reason&.slice(0, 200),
            answered_at: Records.server_time
          }
          Records.db[:lookup_answers].on_duplicate_key_update(*row.keys).insert(
            row.merge(lookup: service.name, asked: value[0, 190], for_day: @moment.today)
          )
        end
      end
    end
  end
end
