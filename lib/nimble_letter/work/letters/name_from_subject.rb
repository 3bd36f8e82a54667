# frozen_string_literal: true

module NimbleLetter
  module Work
    # What nobody has named goes by the subject of its letter, and until there is one by the day it was begun.
    module NameFromSubject
      LONGEST = 160

      # @param subject [Hash, nil] a document
      # @return [String]
      def self.of(subject, moment, what: "Letter")
        words = subject ? Core::Letters::Document.new(subject, moment.catalogue).summary.strip : ""
        words.empty? ? "#{what} of #{moment.today.strftime("%-d %B")}" : words[0, LONGEST]
      end

      # Sequences that nobody has named and that begin with this letter go by its name, as it is now.
      # @param letter [Records::Letter]
      def self.follow(letter)
        begins = Records::Step.where(letter_id: letter.id, out_at: nil, position: 0)
        Records::Sequence.where(named: false, id: begins.select(:sequence_id)).update(name: letter.name)
      end

      # The same, for a draft that begins with another letter now.
      # @param sequence [Records::Sequence]
      def self.name(sequence)
        name = sequence.named ? nil : sequence.steps.first&.letter&.name
        sequence.update(name: name) if name
      end
    end
  end
end
