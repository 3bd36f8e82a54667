# frozen_string_literal: true

module NimbleLetter
  module Work
    # A sequence that is one letter, written by hand to somebody: it leaves when it is sent, at whatever hour that is.
    module OneLetter
      NOW = {"counted" => "joining", "amount" => 0, "unit" => "minutes", "days" => "any", "from_minute" => 0, "to_minute" => 1440,
             "zone" => "ours"}.freeze

      # Puts a letter into a draft that is empty.
      # @param sequence [Records::Sequence]
      # @param chosen [Hash{String=>Object}] "letter_id": one of the library, as it is; "copy": true for a copy of it. Neither: a new one
      # @raise [Invalid] when there is no such letter
      def self.put(sequence, chosen, moment)
        letter = letter(chosen, moment)
        LayOut.new(sequence, moment).call([{"kind" => "letter", "letter_id" => letter.id, **NOW}])
        NameFromSubject.name(sequence.refresh)
      end

      # @return [Boolean] whether it is one letter and nothing else: where people join by themselves there is a plan to look at
      def self.of?(sequence)
        step, more = sequence.steps
        !step.nil? && more.nil? && step.letter? && !step.letter_id.nil? && Records::JoinRule.where(sequence_id: sequence.id).empty?
      end

      def self.letter(chosen, moment)
        return WriteLetter.new(moment).make unless chosen["letter_id"]

        letter = Records::Letter[chosen["letter_id"]] or raise Invalid.new("There is no such letter.", at: "letter.letter_id")
        chosen["copy"] ? WriteLetter.new(moment).copy(letter) : letter
      end
      private_class_method :letter
    end
  end
end
