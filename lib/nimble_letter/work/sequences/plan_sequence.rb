# frozen_string_literal: true

require "time"

module NimbleLetter
  module Work
    # Makes a draft and changes its plan. Once started, only the name changes: what people were promised stays.
    module PlanSequence
      PLAN = %i[audience sender leave_on leave_if ends_at steps].freeze

      # @param letter [Hash, nil] one letter to them, see OneLetter
      # @return [Records::Sequence] a draft from the mailbox of whoever makes it
      def self.make(name:, audience:, moment:, letter: nil)
        own =
          Records::Mailbox.in_use.where(account_id: moment.account.id).exclude(proved_at: nil).get(:id) ||
          Records::Mailbox.in_use.exclude(proved_at: nil).get(:id)
        name = name.to_s.strip
        Records.db.transaction do
          moment.shared_audience(audience) if audience
          sequence = Records::Sequence.create(
            name: name.empty? ? NameFromSubject.of(nil, moment, what: "Sequence") : name,
            named: !name.empty?,
            audience: audience || {},
            sender: {
              "kind" => "mailbox",
              "mailbox_id" => own
            },
            leave_on: %w[replied converted],
            status_set_id: Records::StatusSet.standard&.id,
            account_id: moment.account.id,
            created_at: moment.now,
            updated_at: moment.now
          )
          OneLetter.put(sequence, letter, moment) if letter
          sequence
        end
      end

      # @param input [Hash{Symbol=>Object}] version, and what changes
      # @raise [Invalid, Conflict]
      def self.change(sequence, input, moment:)
        if !sequence.draft? && (input.keys & PLAN).any?
          raise Invalid.new(
            "This sequence has been started; its plan stays as it is.",
            code: :not_a_draft,
            hint: "Stop it and make a new one to change the plan."
          )
        end
        # A colleague who lays it out meanwhile is not stopped by another name.
        return rename(sequence, input[:name], moment) if input.keys.sort == %i[name version]

        LeavingCondition.check(input[:leave_if], moment)
        Records.db.transaction do
          moment.shared_audience(input[:audience]) if input[:audience]
          sequence.change!(columns(input), version: input[:version], now: moment.now, touched: input.key?(:steps))
          LayOut.new(sequence, moment).call(input[:steps]) if input[:steps]
          # What could not be frozen at the start is refused as it is laid out.
          sequence.refresh.laid_out
          NameFromSubject.name(sequence) if input[:steps]
        end
        sequence.refresh
      end

      def self.rename(sequence, name, moment)
        sequence.refresh.update(name: name.strip, named: true, updated_at: moment.now)
      end
      private_class_method :rename

      # @return [Hash{Symbol=>Object}]
      def self.columns(input)
        changes = input.slice(:audience, :sender, :leave_on, :leave_if)
        changes = {**changes, name: input[:name].strip, named: true} if input[:name]
        # What was read back is another plan by now.
        changes.merge!(**StartLater::NOTHING, start_refused: nil) if (input.keys & PLAN).any?
        changes[:ends_at] = time(input[:ends_at]) if input.key?(:ends_at)
        changes
      end
      private_class_method :columns

      # @return [Time, nil]
      # @raise [Invalid]
      def self.time(text)
        text && Time.iso8601(text).utc
      rescue ArgumentError
        raise Invalid.new("“#{text.to_s[0, 40]}” is no time.", at: "ends_at")
      end
    end
  end
end
