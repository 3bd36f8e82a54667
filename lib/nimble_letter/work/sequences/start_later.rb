# frozen_string_literal: true

module NimbleLetter
  module Work
    # Starts a draft at a time that somebody chose after its numbers were read back. It is looked at once more then: what is not ready,
    # or would be far more letters or people than were read back, does not start, and says why. Changing the plan takes the time off.
    # What is sent by hand waits in the same way for so long that one can take it back: nothing has happened yet.
    module StartLater
      NOTHING = {start_at: nil, start_by_id: nil, start_letters: nil, start_gaps: nil, start_joining: nil, undo_until: nil}.freeze
      # By the wall clock: it is for people, whatever the clock in use does meanwhile.
      UNDO_SECONDS = 10
      # So many more letters, or people who join at once, than were read back are what nobody saw coming: a tenth, and some.
      MORE_SHARE = 0.1
      MORE = 20

      # @param at [String] ISO 8601
      # @param version [Integer] as the person saw it
      # @param letters [Integer] the number that was read back
      # @raise [Invalid, Conflict, Forbidden]
      # @param gaps [Integer] as of StartSequence
      # @param joining [Integer, nil] as of StartSequence
      def self.plan(sequence, at:, version:, letters:, moment:, gaps: 0, joining: nil)
        time = PlanSequence.time(at)
        raise Invalid.new("This time is past.", at: "at", hint: "Start it now, or choose a later one.") if time <= moment.now

        start = StartSequence.new(sequence, version, letters, moment, gaps: gaps, joining: joining)
        note(sequence, start, moment, version, start_letters: letters, start_gaps: gaps, start_at: time)
      end

      # Starts it as soon as nobody can take it back any more, see #cancel.
      # @param seen [String, nil] as of StartSequence
      # @raise [Invalid, Conflict, Forbidden]
      def self.send_soon(sequence, version:, letters:, moment:, gaps: 0, joining: nil, seen: nil)
        start = StartSequence.new(sequence, version, letters, moment, gaps: gaps, joining: joining, seen: seen)
        soon = {start_at: moment.now, undo_until: Records.server_time + UNDO_SECONDS}
        note(sequence, start, moment, version, start_letters: letters, start_gaps: gaps, **soon)
      end

      # @return [Float, nil] for so long it can be taken back and nothing has happened; nil where nothing was sent by hand
      def self.undo_seconds(sequence) = sequence.undo_until && [sequence.undo_until - Records.server_time, 0].max.round(1)

      # @return [Boolean] whether something starts by itself in a moment
      def self.any_soon? = Records::Sequence.where(state: "draft").where { undo_until > Records.server_time }.any?

      def self.note(sequence, start, moment, version, **read_back)
        start.look_at
        Records.db.transaction do
          sequence.lock!
          raise Invalid.new("This sequence has been started already.", code: :not_a_draft) unless sequence.draft?
          raise Conflict.new("It is on its way already.", code: :sent_already) if sequence.undo_until
          raise Conflict.new("Somebody changed this sequence meanwhile.", hint: "Look at it again.") unless sequence.version == version

          moment.fresh! if start.many?
          sequence.update(**NOTHING, **read_back, start_by_id: moment.account&.id, start_joining: start.joining, start_refused: nil,
            version: sequence.version + 1, updated_at: moment.now)
        end
        sequence
      end
      private_class_method :note

      # Not at that time after all.
      def self.cancel(sequence, version:, moment:)
        sequence.change!({**NOTHING, start_refused: nil}, version: version, now: moment.now)
      end

      # What was read back is another thing by now: its rules of joining have changed.
      def self.off(sequence)
        sequence.update(**NOTHING) if sequence.draft? && sequence.start_at
      end

      # @param moment [Moment]
      # @return [Integer] sequences that were started
      def self.round(moment)
        due(moment.now).all.count { |sequence| start(sequence, moment) }
      end

      # @return [Time, nil]
      def self.next_due(after:) = Records::Sequence.where(state: "draft").where { start_at > after }.min(:start_at)

      def self.due(now)
        over = Sequel.|({undo_until: nil}, Sequel[:undo_until] <= Records.server_time)
        Records::Sequence.where(state: "draft").where { start_at <= now }.where(over).order(:start_at, :id)
      end
      private_class_method :due

      def self.start(sequence, moment)
        by = Moment.new(now: moment.now, account: Records::Account[sequence.start_by_id], firm: moment.firm, lookups: moment.lookups)
        letters, gaps, joining, seen = ReadyCheck.new(sequence, by).call.values_at(:letters, :gaps, :joining, :seen)
        as_seen(letters, sequence.start_letters, "letters")
        as_seen(gaps, sequence.start_gaps || 0, "letters with a gap")
        as_seen(joining, sequence.start_joining || 0, "people who join at once")
        StartSequence.call(sequence, version: sequence.version, letters: letters, gaps: gaps, seen: seen, moment: by)
      rescue *Records::Patience::AWAY
        raise
      rescue *PutAside::OF_ONE_THING => error
        # Whatever it is, it keeps nothing else from going on. Somebody else may have started it this very moment.
        refused(sequence, error, moment) if sequence.refresh.draft? && sequence.start_at
        false
      end
      private_class_method :start

      def self.as_seen(now, read_back, what)
        return if now <= read_back + [read_back * MORE_SHARE, MORE].max

        raise Invalid.new("It would be #{now} #{what} by now; #{read_back} were read back.", code: :numbers_moved)
      end
      private_class_method :as_seen

      def self.refused(sequence, error, moment)
        remarks = (error.data if error.is_a?(Error))&.fetch(:remarks, nil) || []
        reason = [PutAside.reason(error), *remarks.map { |remark| remark[:words] }].join(" ")
        sequence.update(**NOTHING, start_refused: reason[0, 400], version: sequence.version + 1, updated_at: moment.now)
        SequenceEvents.append("start_refused", sequence.id, at: moment.now, data: {reason: reason[0, 400]})
      end
      private_class_method :refused
    end
  end
end
