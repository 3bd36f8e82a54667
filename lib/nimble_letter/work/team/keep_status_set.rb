# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes and changes a set of member statuses. A status keeps its key when its words change, and cannot be taken away while
    # members have it.
    module KeepStatusSet
      # @return [Records::StatusSet]
      # @raise [Invalid]
      # @raise [Forbidden] unless an admin asks
      def self.make(name, statuses, moment:)
        moment.admin!
        kept = Core::Statuses::StatusSetJson.check(statuses.map { |one| one.transform_keys(&:to_s) }, known: [])
        Records::StatusSet.create(name: named(name), statuses: kept, created_at: moment.now, updated_at: moment.now)
      end

      # @raise [Invalid, Conflict, Forbidden]
      def self.change(set, name:, statuses:, version:, moment:)
        moment.admin!
        changes = {name: name && named(name)}.compact
        if statuses
          known = set.statuses.map { |one| one["key"] }
          kept = Core::Statuses::StatusSetJson.check(statuses.map { |one| one.transform_keys(&:to_s) }, known: known)
          gone(set, known - kept.map { |one| one["key"] })
          hold(set, kept.map { |one| one["key"] })
          changes[:statuses] = kept
        end
        set.change!(changes, version: version, now: moment.now)
        moment.note("setting_changed", about: "the statuses “#{set.name}”")
        set
      end

      def self.gone(set, keys)
        return if keys.empty?

        sequences = Records::Sequence.where(status_set_id: set.id).select(:id)
        used = Records::Member.where(sequence_id: sequences, status: keys).group_and_count(:status).first or return
        words = set.statuses.find { |one| one["key"] == used[:status] }["words"]
        raise Invalid.new("#{used[:count]} have the status “#{words}”.", code: :in_use, at: "statuses", hint: "Give them another first.")
      end
      private_class_method :gone

      # One that another set has too may be meant of that.
      def self.hold(set, keys)
        others = Records::StatusSet.exclude(id: set.id).flat_map { |one| one.statuses.map { |status| status["key"] } }
        WhereUsed.new.hold_words!("statuses", "status", set.statuses, keys | others)
      end
      private_class_method :hold

      def self.named(name) =
        Core::Letters::Values.clean(name.to_s)&.slice(0, 80) || raise(Invalid.new("The set needs a name.", at: "name"))
      private_class_method :named
    end
  end
end
