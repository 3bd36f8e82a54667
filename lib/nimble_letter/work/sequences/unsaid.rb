# frozen_string_literal: true

module NimbleLetter
  module Work
    # What has not been said of a step yet, with what it sends: it can be laid out, and not take effect.
    class Unsaid
      def initialize(moment) = @moment = moment

      # @param step [Records::Step]
      # @param letter [Records::Letter, nil] what it sends
      # @return [String, nil] "no letter chosen"
      def of(step, letter = @moment.letter_of(step))
        said = Core::Journey::StepCheck.missing(step.to_core)
        return said if said || letter.nil?
        return "no subject yet" if letter.document(:subject, @moment.catalogue).empty?

        "nothing written yet" if letter.document(:body, @moment.catalogue).empty?
      end

      # @param steps [Array<Records::Step>]
      # @return [Array<Array(Records::Step, String)>] those of which something is still to be said
      def all(steps) = steps.filter_map { |step| (said = of(step)) && [step, said] }
    end
  end
end
