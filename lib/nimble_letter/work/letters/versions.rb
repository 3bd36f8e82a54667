# frozen_string_literal: true

module NimbleLetter
  module Work
    # The versions of one letter or passage: when what is typed begins a new one (Core::Letters::VersionRule), and how one steps
    # through them. One who goes back stands at an earlier version until something is typed; the newest stays where it is.
    class Versions
      MOST = 200 # kept; older ones go
      # Where the record keeps them.
      HELD = {
        "letters" => -> { [Records::LetterVersion, :letter_id] },
        "passages" => -> { [Records::PassageVersion, :passage_id] }
      }.freeze

      # @param record [Records::Letter, Records::Passage]
      def initialize(record, moment)
        @record, @moment = record, moment
        @model, @owner = HELD.fetch(record.class.table_name.to_s).call
      end

      # @return [Sequel::Dataset]
      def all = @model.where(@owner => @record.id)

      # @param number [Integer, String, nil]
      # @raise [NotFound]
      def find!(number)
        all.first(number: Integer(number, exception: false)) || raise(NotFound.new("There is no such version."))
      end

      # @return [Hash] at: the version one stands at; back, forward: those beside it, or nil; newest: the last that was written
      def places
        last = all.current.order(:number).last or return {at: nil, back: nil, forward: nil, newest: nil}
        at = last.went_back_to || last.number
        newest = all.current.where(went_back_to: nil).max(:number)
        back = all.current.where { number < at }.max(:number)
        forward = all.current.where { (number > at) & (number <= newest) }.min(:number)
        {at: at, back: back, forward: forward, newest: newest}
      end

      # Keeps what the record was before anything kept it.
      # @param content [Hash{Symbol=>Object}]
      def begin_with(content)
        return unless all.empty?

        create(1, "typed", content, account_id: @record.account_id)
      end

      # @param kind [String] of Records::KeptVersion::KINDS
      # @param content [Hash{Symbol=>Object}]
      # @param went_back_to [Integer, nil] number of the version gone back to
      def keep(kind, content = @record.content, went_back_to: nil)
        # One number each, whoever writes at the same time.
        @record.class.where(id: @record.id).for_update.get(:id)
        last = all.order(:number).last
        return last.update(content: content, updated_at: @moment.now, **left(went_back_to)) if goes_on?(last, kind, content)

        number = (last ? last.number : 0) + 1
        all.where(Sequel[:number] <= number - 1 - MOST).delete
        create(number, kind, content, went_back_to: went_back_to)
      end

      private

      def now = @now ||= Records.server_time

      def left(went_back_to) = {left_at: now, went_back_to: went_back_to}

      def create(number, kind, content, account_id: @moment.account&.id, went_back_to: nil)
        @model.create(
          @owner => @record.id,
          :number => number,
          :account_id => account_id,
          :kind => kind,
          :content => content,
          :went_back_to => went_back_to,
          :created_at => @moment.now,
          :updated_at => @moment.now,
          :begun_at => now,
          :left_at => now
        )
      end

      # Further steps back and forth are one; nothing of them is lost, since each is a copy.
      def goes_on?(last, kind, content)
        return false unless last&.kind == kind
        return last.account_id == @moment.account&.id if kind == "restored"

        kind == "typed" &&
          Core::Letters::VersionRule.goes_on?(
            same_writer: last.account_id == @moment.account&.id,
            since_begun: now - last.begun_at,
            since_left: now - last.left_at,
            before: @record.class.words_of(last.content),
            after: @record.class.words_of(JSON.parse(JSON.generate(content)))
          )
      end
    end
  end
end
