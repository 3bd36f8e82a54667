# frozen_string_literal: true

module NimbleLetter
  module Work
    # The assumptions a rehearsal can be made under: nobody answers, everybody opens, rates of one's own, or as people did last time.
    module Assumed
      Rates = Core::Rehearsing::Assumption::Rates
      KINDS = %w[nobody everybody_opens rates last_time].freeze
      EVENTS = {"opened" => :opened, "clicked" => :clicked, "replied" => :replied, "bounced" => :bounced}.freeze
      # Somebody of whom little is known reacts as people do on the whole: as if so many letters of an average reader were added.
      LIKE_OTHERS = 4
      FACTORS = (0.1..10)

      # @param input [Hash{Symbol=>Object}] assume, and rates and seed where they are asked for
      # @param sequence [Records::Sequence]
      # @return [Core::Rehearsing::Assumption]
      # @raise [Invalid]
      def self.from(input, sequence)
        seed = input.fetch(:seed, 1)
        case input.fetch(:assume, "nobody")
        when "nobody" then Core::Rehearsing::Assumption.nobody
        when "everybody_opens" then Core::Rehearsing::Assumption.everybody_opens
        when "rates" then Core::Rehearsing::Assumption.new(rates(input[:rates] || {}), seed: seed)
        when "last_time" then Core::Rehearsing::Assumption.new(last_time(sequence), seed: seed)
        else raise Invalid.new("Assume one of #{KINDS.join(", ")}.", at: "assume")
        end
      end

      def self.rates(given)
        shares = given.to_h.transform_keys(&:to_sym)
        Rates.new(**EVENTS.values.to_h { |name| [name, shares.fetch(name, 0)] })
      end
      private_class_method :rates

      # By what people, and readers of these letters, have done so far.
      # @return [Core::Rehearsing::Assumption::Rates]
      def self.last_time(sequence)
        done = LetterCounts.of(Records::Delivery, by: :letter_id)
        all = ["sent", *EVENTS.keys].to_h { |kind| [kind, done.sum { |(_, one), letters| (one == kind) ? letters : 0 }] }
        # Only who opens clicks; some clicks are heard of without the opening.
        of = Hash.new(all["sent"]).merge("clicked" => all["opened"])
        shares = EVENTS.to_h { |kind, name| [name, of[kind].zero? ? 0.0 : [all[kind].fdiv(of[kind]), 1.0].min] }
        opened = shares[:opened]
        return Rates.new(**shares) if opened.zero?

        by_step = sequence.letter_steps.to_h do |step|
          [step.id, factor(done[[step.letter_id, "sent"]], done[[step.letter_id, "opened"]], opened)]
        end
        Rates.new(**shares, by_person: ->(ids) { readers(ids, opened) }, by_step: by_step)
      end
      private_class_method :last_time

      # @return [Hash{Integer=>Float}] factors of some people
      def self.readers(ids, overall)
        opens = (Sequel[:heard].sql_number & Core::Results::Heard.bits("opened")) > 0
        letters = Records::Delivery.where(person_id: ids, state: "sent").group(:person_id)
          .select_hash(:person_id, [Sequel.function(:count).*.as(:sent), Sequel.function(:sum, opens).as(:opened)])
        letters.transform_values { |sent, opened| factor(sent, opened.to_i, overall) }
      end
      private_class_method :readers

      # How much more or less than others they open (a person), or are opened (a letter).
      # @return [Float]
      def self.factor(sent, opened, overall) = ((opened + LIKE_OTHERS * overall) / (sent + LIKE_OTHERS) / overall).clamp(FACTORS)
      private_class_method :factor
    end
  end
end
