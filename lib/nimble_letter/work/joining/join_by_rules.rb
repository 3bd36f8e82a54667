# frozen_string_literal: true

module NimbleLetter
  module Work
    # A round of the live rules: what happened to people since the last one, slice by slice, each slice one transaction; and once a
    # day what time alone can make true. It costs by what happened, not by how many people there are.
    module JoinByRules
      KIND = "joining"
      SLICE = 500

      # @param moment [Moment]
      # @param stop [#call] asked between slices
      # @return [Integer] rows of what happened that were gone through, and rules that were asked for the day
      def self.round(moment, stop: -> { false })
        return 0 if Records::JoinRule.listening.empty?

        Records::TakingTurns.with("joining") do
          done = AskDaily.round(moment)
          until stop.call || (count = slice(moment)).zero?
            done += count
          end
          done
        end || 0
      end

      # @return [Time, nil] when the next day begins, if there is anything to ask on it
      def self.next_due(moment)
        daily = Core::Journey::Joining::KINDS.select { |_, kind| kind.daily }.keys
        return if Records::JoinRule.listening.where(kind: daily).empty?

        Core::Calendar::Zones.instant(moment.firm.zone, moment.today + 1, 0)
      end

      def self.slice(moment)
        rows = waiting.limit(SLICE).all
        together(rows, moment)
      rescue *Records::Patience::AWAY
        raise
      rescue *PutAside::OF_ONE_THING
        # One of them keeps the others: they are looked at one by one.
        rows.sum { |row| PutAside.guard(KIND, row.id, at: moment.now) { together([row], moment) } || 1 }
      end
      private_class_method :slice

      # Without what somebody has to decide about.
      def self.waiting
        alone = Records::SetAside.left_alone(KIND).filter_map { |key| Integer(key, exception: false) }
        Records::Stirred.exclude(id: alone).order(:id)
      end
      private_class_method :waiting

      def self.together(rows, moment)
        return 0 if rows.empty?

        Records.db.transaction do
          # What this slice itself stirs comes with the next one.
          meant = WhoIsMeant.new(rows, moment)
          Records::JoinRule.listening.all.each do |rule|
            ids = of(rule, meant, moment)
            joined = JoinPeople.new(rule, moment).call(ids)
            LiveFilter.new(rule, moment).known(joined) if rule.kind == "filter" && joined.any?
          end
          Records::Stirred.where(id: rows.map(&:id)).delete
        end
      end
      private_class_method :together

      # A rule that speaks of what is gone keeps the others from nothing; it is shown.
      def self.of(rule, meant, moment)
        meant.by(rule)
      rescue NotFound, Invalid => error
        PutAside.call("round", "joining #{rule.id}", error, at: moment.now)
        []
      end
      private_class_method :of
    end
  end
end
