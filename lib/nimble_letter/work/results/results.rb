# frozen_string_literal: true

module NimbleLetter
  module Work
    # The figures of one sequence, per step and in all, worked out from deliveries and events. Each opens its people.
    class Results
      # Where a figure is counted: states of deliveries, or kinds of events (people, each once per step).
      BY_STATE = {"planned" => nil, "sent" => %w[sent], "failed" => %w[failed], "skipped" => %w[skipped], "in_doubt" => %w[in_doubt],
                  "due" => Records::Delivery::STILL_DUE}.freeze
      BY_EVENT = %w[opened clicked replied bounced unsubscribed converted].freeze

      def initialize(sequence) = @sequence = sequence

      # @return [Hash] steps (each with figures), total, conversions (count, value in pence), responses
      def call
        per_step = @sequence.steps.each_with_index.map do |step, i|
          {step_id: step.id, position: i + 1, letter: step.letter&.name, figures: figures(counts_for(step.id))}
        end
        {steps: per_step, total: figures(total), people: @sequence.members_dataset.count, value_pence: value_pence, statuses: statuses}
      end

      # @param figure [String] a key of BY_STATE or one of BY_EVENT
      # @param step_id [Integer, nil] nil for the whole sequence
      # @return [Sequel::Dataset] of people
      # @raise [Invalid]
      def people_of(figure, step_id: nil)
        ids = if BY_STATE.key?(figure)
          in_state(figure, step_id).select(:person_id)
        elsif BY_EVENT.include?(figure)
          happened(step_id).where(kind: figure).select(:person_id)
        else
          raise Invalid.new("There is no figure #{figure.inspect}.", at: "figure")
        end
        Records::Person.where(Sequel[:people][:id] => ids)
      end

      # @return [Hash] a condition that may give the same people
      def condition_of(figure, step_id: nil)
        return {"membership" => "was_in", "sequence_id" => @sequence.id} if figure == "planned"

        letter = step_id && @sequence.steps.find { |step| step.id == step_id }&.letter_id
        {"activity" => LetterFigures::ACTIVITIES.fetch(figure, figure), "sequence_id" => @sequence.id, "letter_id" => letter}.compact
      end

      private

      def in_state(figure, step_id)
        deliveries = Records::Delivery.where(sequence_id: @sequence.id)
        deliveries = deliveries.where(step_id: step_id) if step_id
        BY_STATE[figure] ? deliveries.where(state: BY_STATE[figure]) : deliveries
      end

      def happened(step_id)
        events = Records::Event.by_people.where(sequence_id: @sequence.id).exclude(step_id: nil)
        step_id ? events.where(step_id: step_id) : events
      end

      def states =
        @states ||= Records::Delivery.where(sequence_id: @sequence.id).group_and_count(:step_id, :state).as_hash(%i[step_id state], :count)

      # A person counts once per step, however often they opened its letter.
      def events
        @events ||= happened(nil).where(kind: BY_EVENT).group(:step_id, :kind)
          .select_hash([:step_id, :kind], Sequel.function(:count, :person_id).distinct.as(:count))
      end

      def counts_for(step_id)
        by_state =
          BY_STATE.to_h do |name, wanted|
            [name, states.sum { |(id, state), count| (id == step_id && (wanted.nil? || wanted.include?(state))) ? count : 0 }]
          end
        by_state.merge(BY_EVENT.to_h { |kind| [kind, events.fetch([step_id, kind], 0)] })
      end

      # The whole sequence is the sum of its letters: a person who opened two letters opened two.
      def total
        @sequence.steps.map { |step| counts_for(step.id) }.inject { |all, counts| all.merge(counts) { |_, a, b| a + b } } || {}
      end

      def figures(counts)
        counts.map { |name, count| Core::Results::Figure.new(name, count, counts[Core::Results::Figure::BASES[name]]).to_h }
      end

      def value_pence
        Records::Event
          .where(sequence_id: @sequence.id, kind: "converted")
          .select_map(:data)
          .sum { |data| JSON.parse(data || "{}").fetch("value_pence", 0) }
      end

      def statuses
        counts = @sequence.members_dataset.group_and_count(:status).as_hash(:status, :count)
        MemberStatus::LADDER.rungs.map do |rung|
          {key: rung.key, words: rung.words, response: rung.response, count: counts.fetch(rung.key, 0)}
        end
      end
    end
  end
end
