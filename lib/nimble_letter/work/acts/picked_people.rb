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
            now = become(before, gone, kept)
            next if now == before

            put(record, column, now)
            [model, record.id, before, now]
          end
        end
      end

      # @param set [Records::ChangeSet] of a merge
      # @param holders [Array<Integer>] the record that stayed, and the one it may have become part of since
      def self.take_back(set, holders)
        set.act.fetch("picked", []).each do |model, id, before, after|
          record, column = Records.const_get(model)[id], HOLDERS.fetch(model)
          next unless record

          now, later = record.public_send(column), later(set, model, id)
          unchanged = now == (later.last&.last || after)
          put(record, column, unchanged ? without(before, later, model, id) : apart(now, before, set.act["gone"], holders))
        end
      end

      # @return [Hash] the same audience with one person become another
      def self.become(audience, gone, kept) =
        Core::Exchange::Places.map(audience, ->(_) {}) { |kind, id| (kind == "people" && id == gone) ? kept : id }
      private_class_method :become

      # @return [Array<Array(Records::ChangeSet, Hash)>] merges since that changed this one too and hold, with what it said after each
      def self.later(set, model, id)
        merges = Records::ChangeSet.where(kind: "merge", state: "done").where { |o| o.id > set.id }
        merges.where(Sequel.like(:act, "%[\"#{model}\",#{id},%")).order(:id).all.filter_map do |one|
          found = one.act.fetch("picked", []).find { |other| other.first(2) == [model, id] }
          [one, found.last] if found
        end
      end
      private_class_method :later

      # What it would say had the merge never been; the later ones hold what they made of that.
      def self.without(before, later, model, id)
        later.map(&:first).inject(before) do |said, merge|
          now = become(said, merge.act["gone"], merge.act["kept"])
          picked = merge.act["picked"].map { |one| (one.first(2) == [model, id]) ? [model, id, said, now] : one }
          merge.update(act: merge.act.merge("picked" => picked))
          now
        end
      end
      private_class_method :without

      def self.holding(model, column) =
        Records.const_get(model).where(Sequel.|(*KEYS.map { |key| Sequel.like(column, "%\"#{key}\"%") })).all
      private_class_method :holding

      def self.put(record, column, json) = record.update(column => json, :version => record.version + 1)
      private_class_method :put

      # Somebody has changed it since: the two stand where one of them still does.
      def self.apart(now, before, gone, holders)
        return now unless now.is_a?(Hash) && before.is_a?(Hash)

        now.to_h do |key, value|
          was = before[key]
          next [key, apart(value, was, gone, holders)] unless KEYS.include?(key) && value.is_a?(Array) && was.is_a?(Array)

          holder = holders.find { |id| value.include?(id) }
          next [key, value] unless was.include?(gone) && holder

          [key, (was.include?(holder) ? value : value - [holder]) | [gone]]
        end
      end
      private_class_method :apart
    end
  end
end
