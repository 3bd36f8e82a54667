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
        sent = Records::Delivery.where(state: "sent").count
        reactions = Records::Event.by_people.about_sent.where(kind: EVENTS.keys)
        done = reactions.group(:kind).select_hash(:kind, Sequel.function(:count, :delivery_id).distinct.as(:count))
        shares = EVENTS.to_h { |kind, name| [name, sent.zero? ? 0.0 : done.fetch(kind, 0).fdiv(sent)] }
        opened = shares[:opened]
        return Rates.new(**shares) if opened.zero?

        letters = sequence.letter_steps.to_h { |step| [step.id, step.letter_id] }
        by_letter = factors(:letter_id, letters.values.uniq, opened)
        Rates.new(**shares, by_person: factors(:person_id, nil, opened), by_step: letters.transform_values { |id| by_letter.fetch(id, 1) })
      end
      private_class_method :last_time

      # How much more or less than others they open (a person), or are opened (a letter).
      # @return [Hash{Integer=>Float}]
      def self.factors(column, ids, overall)
        among = ->(rows) { ids ? rows.where(column => ids) : rows }
        sent = among.call(Records::Delivery.where(state: "sent")).group_and_count(column).as_hash(column, :count)
        opened = among.call(Records::Event.by_people.about_sent.where(kind: "opened")).group(column)
          .select_hash(column, Sequel.function(:count, :delivery_id).distinct.as(:count))
        sent.to_h do |id, letters|
          own = (opened.fetch(id, 0) + LIKE_OTHERS * overall) / (letters + LIKE_OTHERS)
          [id, (own / overall).clamp(FACTORS)]
        end
      end
      private_class_method :factors
    end
  end
end
