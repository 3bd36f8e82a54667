# frozen_string_literal: true

module NimbleLetter
  module Web
    # Sequences as lists show them.
    module SequenceRows
      # Whoever may still come to a letter by a lane is in nobody's plan yet, and what was taken out was planned for those who had it.
      def self.planned(sequence)
        accounting = Work::Accounting.new(sequence)
        accounting.letter_steps.sum { |step| accounting.of(step)["planned"] }
      end
      private_class_method :planned

      # @param sequences [Array<Records::Sequence>]
      def self.write(sequences)
        ids = sequences.map(&:id)
        steps = Records::Step.letters.where(sequence_id: ids, out_at: nil).group_and_count(:sequence_id).as_hash(:sequence_id, :count)
        fork_or_gone = Sequel.|({kind: "fork", out_at: nil}, Sequel.~(out_at: nil))
        counted = Records::Step.where(sequence_id: ids).where(fork_or_gone).distinct.select_map(:sequence_id).to_set
        memberships_and_people = [Sequel.function(:count).*.as(:members), Work::Results::EACH_ONCE.as(:people)]
        came = Records::Member.where(sequence_id: ids).group(:sequence_id).select_hash(:sequence_id, memberships_and_people)
        letters = Work::LetterCounts.of(Records::Delivery.where(sequence_id: ids), by: :sequence_id)
        sequences.map do |sequence|
          members, people = came.fetch(sequence.id, [0, 0])
          {
            **sequence.values.slice(:id, :name, :state, :started_at, :ended_at, :updated_at, :start_at, :start_refused),
            steps: steps.fetch(sequence.id, 0),
            people: people,
            planned: counted.include?(sequence.id) ? planned(sequence) : members * steps.fetch(sequence.id, 0),
            **%i[sent in_doubt replied].to_h { |word| [word, letters[[sequence.id, word.to_s]]] }
          }
        end
      end
    end
  end
end
