# frozen_string_literal: true

module NimbleLetter
  module Work
    # The figures of one sequence, per step and in all, worked out from deliveries and events. Each opens its people.
    class Results
      # Of each person once: somebody may have come to a sequence more than once.
      EACH_ONCE = Sequel.function(:count, Sequel[:members][:person_id]).distinct
      HEARD = LetterCounts::KINDS

      def initialize(sequence)
        @sequence, @accounting = sequence, Accounting.new(sequence)
      end

      # @param each_once [Boolean] whether the figures in all also say how many people that is
      # @return [Hash] steps (each with figures; position nil: taken out since), total, may (letters that may come by lanes and are not
      #   planned for certain), people, value in pence, statuses
      def call(each_once: false)
        # All of one moment: what comes between two questions would be in one number and not in the next.
        Records.db.transaction(isolation: :repeatable) do
          per_step = letter_steps.map { |step| of_step(step) }
          all = figures(total)
          all = all.map { |figure| {**figure, people: people_heard(figure[:name])}.compact } if each_once
          {steps: per_step, total: all, may: may, people: people, value_pence: value_pence, statuses: statuses}
        end
      end

      # @param figure [String] one of Accounting::FIGURES or of HEARD
      # @param step_id [Integer, nil] nil for the whole sequence
      # @return [Sequel::Dataset] of people
      # @raise [Invalid]
      def people_of(figure, step_id: nil)
        return @accounting.people_of(figure, step_id: step_id) if Accounting::FIGURES.include?(figure)
        return quiet(step_id).people if figure == "quiet"
        raise Invalid.new("There is no figure #{figure.inspect}.", at: "figure") unless HEARD.include?(figure)

        Records::Person.where(Sequel[:people][:id] => LetterCounts.those(letters(step_id), figure).select(:person_id))
      end

      # @return [Hash] a condition that may give the same people
      def condition_of(figure, step_id: nil)
        return {"membership" => "was_in", "sequence_id" => @sequence.id} if figure == "planned"

        return quiet(step_id).condition if figure == "quiet"

        letter = step_id && letter_steps.find { |step| step.id == step_id }&.letter_id
        {"activity" => LetterFigures::ACTIVITIES.fetch(figure, figure), "sequence_id" => @sequence.id, "letter_id" => letter}.compact
      end

      private

      def may = @sequence.letter_steps.sum { |step| @accounting.of(step)["may"] }

      # Somebody who opened two letters is one.
      def people_heard(name) =
        (LetterCounts.those(letters, name).get(Sequel.function(:count, :person_id).distinct) if HEARD.include?(name) || name == "sent")

      def people = @sequence.members_dataset.get(EACH_ONCE)

      def letter_steps = @accounting.letter_steps

      def of_step(step)
        place = step.position + 1 unless step.out_at
        {step_id: step.id, position: place, letter: step.letter&.name, figures: figures(counts_for(step))}
      end

      def letters(step_id = nil)
        Records::Delivery.where({sequence_id: @sequence.id, step_id: step_id}.compact)
      end

      # @return [QuietOnes]
      def quiet(step_id = nil)
        letter = step_id && Records::Step.where(id: step_id).get(:letter_id)
        QuietOnes.new(sequence_id: @sequence.id, step_id: step_id, letter_id: letter)
      end

      # Of each step by itself, and once more in all.
      def counts_for(step)
        (@counts ||= {})[step.id] ||= begin
          heard = HEARD.to_h { |kind| [kind, @accounting.letters[[step.id, kind]]] }
          @accounting.of(step).except("here", "may").merge(heard, "quiet" => quiet_at(step))
        end
      end

      # Where nobody came a second time, each letter is one person's.
      def quiet_at(step)
        return @accounting.letters[[step.id, Core::Results::Heard::UNANSWERED]] unless again?

        (@quiet_by_step ||= quiet.by_step).fetch(step.id, 0)
      end

      def again? = @again.nil? ? @again = !@sequence.members_dataset.where { round > 1 }.empty? : @again

      # The whole sequence is the sum of its letters: a person who opened two letters opened two. Quiet is whoever reacted to none.
      def total
        sum = letter_steps.map { |step| counts_for(step) }.inject { |all, counts| all.merge(counts) { |_, a, b| a + b } }
        sum ? sum.merge("quiet" => quiet.count) : {}
      end

      def figures(counts)
        counts.map { |name, count| Core::Results::Figure.new(name, count, counts[Core::Results::Figure::BASES[name]]).to_h }
      end

      def value_pence
        Records::Event
          .where(kind: "converted", delivery_id: LetterCounts.those(letters, "converted").select(:id))
          .select_map(:data)
          .sum { |data| JSON.parse(data || "{}").fetch("value_pence", 0) }
      end

      def statuses
        counts = @sequence.members_dataset.group(:status).select_hash(:status, EACH_ONCE.as(:count))
        MemberStatus.of(@sequence).rungs.map do |rung|
          {key: rung.key, words: rung.words, response: rung.response, count: counts.fetch(rung.key, 0)}
        end
      end
    end
  end
end
