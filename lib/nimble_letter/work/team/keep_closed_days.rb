# frozen_string_literal: true

module NimbleLetter
  module Work
    # On which days the firm is closed: no working days, for anything that is reckoned from now on. Letters that wait for one of
    # them go on the next day that is worked.
    module KeepClosedDays
      SLICE = 500

      # @param list [Array<Hash>] "from" and "to" (ISO 8601, the last day included) and "words"
      # @raise [Invalid]
      # @raise [Forbidden] unless an admin asks
      def self.call(list, moment:)
        moment.admin!
        closed = list.map { |one| clean(one.transform_keys(&:to_s)) }.sort_by { |one| one[:from] }
        calendar = Records::Firm.new(**Records::Firm.settings, closed: closed).calendar(moment.now)
        closed.each { |one| calendar.on_or_after(Date.iso8601(one[:from])) }
        Records.db.transaction do
          moment.note("setting_changed", about: "the firm is closed: #{closed.map { |one| "#{one[:from]} to #{one[:to]}" }.join(", ")}")
          Records::Firm.save(closed: closed)
        end
        put_off(closed, Moment.new(now: moment.now, account: moment.account))
      rescue Core::Calendar::WorkCalendar::NoWorkingDay => error
        raise Invalid.new("#{error.message} Leave days open in between.", code: :no_working_day, at: "closed")
      end

      def self.clean(one)
        from, to = [one["from"], one["to"]].map { |text| Date.iso8601(text.to_s) }
        raise Invalid.new("The last day comes before the first.", at: "closed") if to < from

        {from: from.iso8601, to: to.iso8601, words: Core::Letters::Values.clean(one["words"])&.slice(0, 80)}.compact
      rescue Date::Error
        raise Invalid.new("A day is written like 2026-12-24.", at: "closed")
      end
      private_class_method :clean

      # Only later: what has been put off already stays so.
      def self.put_off(closed, moment)
        zone = moment.firm.zone
        closed.each do |one|
          opens = Core::Calendar::Zones.instant(zone, Date.iso8601(one[:from]) - 1, 0)
          shuts = Core::Calendar::Zones.instant(zone, Date.iso8601(one[:to]) + 2, 0)
          waiting = Records::Delivery.where(state: "due", due_at: opens..shuts)
          waiting.select_map(:member_id).each_slice(SLICE) { |ids| slice(ids, moment) }
        end
      end
      private_class_method :put_off

      def self.slice(ids, moment)
        Records.db.transaction do
          Records::Member.active.where(id: ids).order(:id).for_update.all.each { |member| Away.put_off(member, member.person, moment) }
        end
      end
      private_class_method :slice
    end
  end
end
