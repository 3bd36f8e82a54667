# frozen_string_literal: true

module NimbleLetter
  module Work
    # Starts a sequence: everybody who would get it becomes a member, and every letter becomes a delivery with its time.
    # Running it twice does nothing the second time: only a draft can start.
    class StartSequence
      # @param sequence [Records::Sequence]
      # @param version [Integer] as the person saw it
      # @param letters [Integer] the number that was read back to them
      # @param joining [Integer, nil] people who were said to join at once by its rules; nil: it was not said
      # @param gaps [Integer] letters that were said to wait until their gap is filled, see FilledGaps; the others go
      # @param seen [String, nil] the digest that came with it, see ReadyCheck; what is still as it was then is not looked at again
      # @raise [Invalid] when something is missing; [Conflict] when the numbers moved meanwhile; [Forbidden] when so many
      #   letters ask for the password again
      def self.call(sequence, version:, letters:, moment:, gaps: 0, joining: nil, seen: nil) =
        new(sequence, version, letters, moment, gaps: gaps, joining: joining, seen: seen).call

      def initialize(sequence, version, letters, moment, gaps: 0, joining: nil, seen: nil)
        @sequence, @version, @letters, @moment, @gaps, @joining, @seen = sequence, version, letters, moment, gaps, joining, seen
      end

      # Letters are looked at before anything is locked, and once more only when something has changed since.
      def call
        unchanged
        look unless @seen
        Records.db.transaction do
          @sequence.lock!
          unchanged
          check
          @moment.fresh! if many?
          @moment.note("sequence_started", about: "“#{@sequence.name}”, #{@letters} letters", data: {sequence_id: @sequence.id})
          freeze_plan
          Enrol.new(@sequence, @outlook, @moment, by: "start").call
          @sequence.update(**StartLater::NOTHING, start_refused: nil, state: "running", started_at: @moment.now,
            updated_at: @moment.now, version: @sequence.version + 1)
          KeepRule.listen(@sequence, @moment)
        end
        @sequence
      end

      # As #call looks, and nothing is started.
      # @raise [Invalid, Conflict]
      def look_at
        unchanged
        look unless @seen
        check
      end

      # @return [Integer] people who join at once by its rules, as it was looked at
      def joining = @ready.joining.size

      # @return [Boolean] whether so many would be written to that the password is asked for again
      def many? = @letters > Moment::MANY || joining > Moment::MANY

      private

      # What its members go by from now on, whatever becomes of the draft.
      def freeze_plan
        plan = @sequence.laid_out
        Records::FrozenPlan.make(@sequence, plan, at: @moment.now, account_id: @moment.account&.id)
        SequenceEvents.append("started", @sequence.id, at: @moment.now, account_id: @moment.account&.id, data: {plan: plan.number})
      end

      def unchanged
        raise Invalid.new("This sequence has been started already.", code: :not_a_draft) unless @sequence.draft?
        return if @sequence.version == @version

        raise Conflict.new("Somebody changed this sequence meanwhile.", hint: "Look at it again, then start it.")
      end

      def look
        ready = ReadyCheck.new(@sequence, @moment)
        found(ready)
        @seen = ready.outlook.digest(@gaps)
      end

      def found(ready)
        missing(ready.remarks)
        moved("#{ready.gaps} with a gap", @gaps, ready) unless ready.gaps == @gaps
      end

      def missing(remarks)
        return if remarks.none?(&:blocking)

        remarks = remarks.map { |one| one.to_h.compact }
        raise Invalid.new("Something is missing before this can start.", code: :not_ready, data: {remarks: remarks})
      end

      def check
        @ready = ReadyCheck.new(@sequence, @moment)
        missing(@ready.remarks(gaps: false))
        found(@ready) unless @ready.outlook.digest(@gaps) == @seen
        @outlook = @ready.outlook
        moved("#{@outlook.letters} letters", @letters, @ready) unless @outlook.letters == @letters
        moved("#{joining} people who join at once", @joining, @ready) unless [nil, joining].include?(@joining)
      end

      def moved(now, read_back, ready)
        raise Conflict.new("It is #{now} now, not #{read_back}.", code: :numbers_moved, hint: "Read the new numbers, then start.",
          data: {letters: ready.outlook.letters, gaps: ready.gaps, joining: ready.joining.size})
      end
    end
  end
end
