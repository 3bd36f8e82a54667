# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes, changes and retires mailboxes: whose they are, where answers go, what they send in a day, at what pace and in which hours.
    class KeepMailbox
      COLUMNS = %i[address name account_id reply_to filing_address daily_limit pace_from pace_to hours_from hours_to].freeze
      MOST_A_DAY = 2000
      LONGEST_PACE = 3600

      # @param input [Hash{Symbol=>Object}] of COLUMNS
      # @raise [Forbidden] unless an admin asks; [Invalid]
      def self.make(input, moment:)
        moment.admin!
        box = Records::Mailbox.new(daily_limit: 50, updated_at: moment.now)
        new(box, moment).save(input).tap { moment.note("setting_changed", about: "#{box.address} is a new mailbox") }
      end

      # @param input [Hash{Symbol=>Object}] version, and what changes
      def self.change(box, input, moment:)
        moment.admin!
        new(box, moment).change(input)
      end

      # Nothing leaves from it any more; letters that wait in it are set aside as they come up.
      # @param anyway [Boolean] although it is used
      # @raise [Invalid] while it is used and nobody said so
      def self.retire(box, moment:, anyway: false)
        moment.admin!
        used = used_in(box)
        if used.any? && !anyway
          names = used.map { |sequence| "“#{sequence.name}”" }.join(", ")
          raise Invalid.new("#{box.address} is used in #{names}.", code: :used, hint: "Letters that wait in it would be set aside.",
            data: {sequences: used.map { |sequence| sequence.values.slice(:id, :name) }})
        end

        moment.note("setting_changed", about: "#{box.address} is retired")
        box.update(retired_at: moment.now, updated_at: moment.now, version: box.version + 1)
      end

      # @raise [Conflict]
      def self.take_back(box, moment:)
        moment.admin!
        box.update(retired_at: nil, updated_at: moment.now, version: box.version + 1)
      end

      # @return [Array<Records::Sequence>] under way or drafts that write from it
      def self.used_in(box)
        active = Records::Member.active.where(mailbox_id: box.id).distinct.select_map(:sequence_id)
        Records::Sequence.where(state: %w[draft running paused]).order(:id).all.select { |one|
          active.include?(one.id) || one.sender["mailbox_id"] == box.id
        }
      end

      def initialize(box, moment)
        @box, @moment = box, moment
      end

      def save(input)
        @box.set(values(input))
        check
        @box.save
      end

      def change(input)
        Records.db.transaction do
          changes = values(input)
          # Another address is another mailbox: it has to be proved itself.
          anew = (changes.key?(:address) && changes[:address] != @box.address) ? {proved_at: nil, code_digest: nil} : {}
          @box.set(changes)
          check
          @box.refresh.change!({**changes, **anew, free_at: nil, free_why: nil}, version: input[:version], now: @moment.now)
          @moment.note("setting_changed", about: "#{@box.address}: #{changes.keys.join(", ")}")
        end
        @box
      end

      private

      def values(input)
        input.slice(*COLUMNS).transform_values do |value|
          value = value.strip if value.is_a?(String)
          value unless value == ""
        end
      end

      def check
        address!(:address) || wrong("A mailbox needs an address", "address")
        wrong("A mailbox needs a name", "name") unless @box.name
        others = Records::Mailbox.where(address: @box.address)
        others = others.exclude(id: @box.id) if @box.id
        wrong("There is a mailbox with this address already", "address") if others.any?
        %i[reply_to filing_address].each { |name| address!(name) }
        wrong("There is no such colleague", "account_id") if @box.account_id && !Records::Account[@box.account_id]
        wrong("Say a number of letters from 1 to #{MOST_A_DAY}", "daily_limit") unless @box.daily_limit.to_i.between?(1, MOST_A_DAY)
        check_pace
        check_hours
      end

      def check_hours
        from, to = @box.hours_from || 0, @box.hours_to || 1440
        fit = [from, to].all? { |minute| minute.is_a?(Integer) && minute.between?(0, 1440) } && from < to
        wrong("Hours are minutes of a day, and begin before they end", "hours_to") unless fit
      end

      def check_pace
        pace = [@box.pace_from, @box.pace_to]
        return if pace.none?

        fits = pace.all? { |seconds| seconds.is_a?(Integer) && seconds.between?(1, LONGEST_PACE) } && pace.first <= pace.last
        wrong("A pace goes from so many seconds to as many or more, #{LONGEST_PACE} at most", "pace_from") unless fits
      end

      def address!(name)
        address = @box[name] or return
        wrong("“#{address[0, 60]}” is no address", name.to_s) unless address.match?(Core::Address::PATTERN)
        true
      end

      def wrong(words, at) = raise(Invalid.new("#{words}.", at: at))
    end
  end
end
