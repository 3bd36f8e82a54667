# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who was picked or left out one by one, in the audiences of sequences and of rules, when two records become one: whoever is the same
    # human by now is still picked, and still left out.
    module PickedPeople
      HOLDERS = {"Sequence" => :audience, "JoinRule" => :settings}.freeze
      KEYS = %w[people without].freeze

      # @param gone [Integer] a person
      # @param kept [Integer] who they are now
      # @return [Array<Array(String, Integer, Hash, Hash)>] what holds them, its number, and what it said before and says now
      def self.follow(gone, kept)
        HOLDERS.flat_map do |model, column|
          holding(model, column).filter_map do |record|
            before = record.public_send(column)
            now = Core::Exchange::Places.map(before, ->(_) {}) { |kind, id| (kind == "people" && id == gone) ? kept : id }
            next if now == before

            put(record, column, now)
            [model, record.id, before, now]
          end
        end
      end

      # @param changed [Array<Array(String, Integer, Hash, Hash)>] as #follow gives it
      def self.take_back(changed, gone, kept)
        changed.each do |model, id, before, after|
          record, column = Records.const_get(model)[id], HOLDERS.fetch(model)
          next unless record

          now = record.public_send(column)
          put(record, column, (now == after) ? before : apart(now, before, gone, kept))
        end
      end

      def self.holding(model, column) =
        Records.const_get(model).where(Sequel.|(*KEYS.map { |key| Sequel.like(column, "%\"#{key}\"%") })).all
      private_class_method :holding

      def self.put(record, column, json) = record.update(column => json, :version => record.version + 1)
      private_class_method :put

      # Somebody has changed it since: the two stand where one of them still does.
      def self.apart(now, before, gone, kept)
        return now unless now.is_a?(Hash) && before.is_a?(Hash)

        now.to_h do |key, value|
          was = before[key]
          next [key, apart(value, was, gone, kept)] unless KEYS.include?(key) && value.is_a?(Array) && was.is_a?(Array)
          next [key, value] unless was.include?(gone) && value.include?(kept)

          [key, (was.include?(kept) ? value : value - [kept]) | [gone]]
        end
      end
      private_class_method :apart
    end
  end
end
