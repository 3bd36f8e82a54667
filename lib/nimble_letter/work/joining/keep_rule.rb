# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes, changes, switches and takes away the rules by which people join a sequence.
    class KeepRule
      Joining = Core::Journey::Joining
      MOST = 20 # rules of one sequence
      NOBODY_WEARS = 0
      private_constant :NOBODY_WEARS

      # @param input [Hash{Symbol=>Object}] kind, settings, again, gap_days, live, now_too
      # @return [Records::JoinRule]
      # @raise [Invalid]
      def self.make(sequence, input, moment:)
        raise Invalid.new("It has #{MOST} rules already.", at: "kind") if Records::JoinRule.where(sequence_id: sequence.id).count >= MOST

        rule = Records::JoinRule.new(sequence_id: sequence.id, kind: input[:kind], account_id: moment.account&.id, created_at: moment.now,
          updated_at: moment.now)
        new(rule, moment).save(input)
      end

      # @param input [Hash{Symbol=>Object}] version, and what changes
      # @raise [Invalid, Conflict]
      def self.change(rule, input, moment:) = new(rule, moment).save(input.except(:kind), version: input[:version])

      def self.drop(rule, moment:)
        Records.db.transaction do
          StartLater.off(rule.sequence)
          rule.update(live: false)
          listen(rule.sequence, moment)
          rule.delete
        end
      end

      # What it would take in, as it is said, and nothing is kept.
      # @param input [Hash{Symbol=>Object}] kind and settings
      # @return [Records::JoinRule]
      # @raise [Invalid]
      def self.read(sequence, input, moment:)
        rule = Records::JoinRule.new(sequence_id: sequence.id, kind: input[:kind])
        rule.set(**new(rule, moment).read(input))
      end

      # Its rules listen from now on, or no longer, as its state is.
      # @param sequence [Records::Sequence]
      def self.listen(sequence, moment)
        under_way = Records::Sequence.under_way.where(id: sequence.id).any?
        Records::JoinRule.where(sequence_id: sequence.id).for_update.all.each do |rule|
          listens = rule.live && under_way
          next if rule.listens == listens

          rule.update(listens: listens)
          listens ? new(rule, moment).begin : rule.waits.delete
        end
        return if Records::JoinRule.listening.any?

        Records::Stirred.dataset.delete
        Records::SetAside.where(kind: JoinByRules::KIND).delete
      end

      def initialize(rule, moment)
        @rule, @moment = rule, moment
      end

      def save(input, version: nil)
        Records.db.transaction do
          @rule.sequence.lock!
          check(input)
          before = @rule.settings unless @rule.new?
          values = {**input.slice(:again, :gap_days, :live, :now_too), **settings(input)}
          version ? @rule.change!(values, version: version, now: @moment.now) : @rule.set(values).save
          StartLater.off(@rule.sequence)
          # What it is about has changed: it begins again.
          Records::JoinRule.where(id: @rule.id).update(listens: false) if version && @rule.settings != before
          self.class.listen(@rule.sequence, @moment)
          # As a start for so many would.
          @moment.fresh! if @rule.refresh.listens && @rule.now_too && now_true.limit(Moment::MANY + 1).count > Moment::MANY
        end
        @rule.refresh
      end

      # @return [Hash{Symbol=>Object}] columns
      def read(input)
        check(input)
        settings(input, make: false)
      end

      # From now on it is heard; of whom it is true already joins by it only where somebody said so.
      def begin
        case @rule.kind
        when "filter"
          LiveFilter.new(@rule, @moment).begin_anew
          @rule.update(asked_on: @rule.now_too ? nil : @moment.today)
        when "tag", "list" then Records::Stirred.begin_with(now_true, @rule) if @rule.now_too
        when "yearly" then @rule.update(asked_on: @moment.today - 1)
        end
      end

      private

      def now_true = JoinsAtOnce.true_of(@rule, @moment)

      def check(input)
        wrong("A rule is one of #{Joining::KINDS.keys.join(", ")}", "kind") unless Joining::KINDS.key?(@rule.kind)
        wrong("Again is one of #{Joining::AGAIN.join(", ")}", "again") if input.key?(:again) && !Joining::AGAIN.include?(input[:again])
        days = input.fetch(:gap_days, 0)
        unless days.is_a?(Integer) && days.between?(0, Joining::MOST_DAYS)
          wrong("Say a number of days from 0 to #{Joining::MOST_DAYS}", "gap_days")
        end
        wrong("This cannot be true of anybody beforehand", "now_too") if input[:now_too] && !@rule.of_kind.now_too
      end

      # @return [Hash{Symbol=>Hash}] as they are kept, and what they speak of is there
      # @param make [Boolean] whether a tag that is new is made by its name; else nobody wears it
      def settings(input, make: true)
        given = input.fetch(:settings) { @rule.new? ? {} : @rule.settings }.to_h.transform_keys(&:to_s)
        given["tag_id"] = tag_id(given["tag"], make) if given["tag"].to_s.strip != ""
        needs = @rule.of_kind.needs
        missing = needs.reject { |name| given.key?(name) }
        wrong("Say #{missing.join(" and ")} too", "settings") if missing.any?
        return {settings: given.slice(*needs)} if given["tag_id"] == NOBODY_WEARS

        {settings: {**given.slice(*needs), **looked_at(given)}, hears: @rule.of_kind.hears}
      end

      def tag_id(name, make)
        return Records::Tag.named(name).id if make

        Records::Tag.found(name)&.id || NOBODY_WEARS
      end

      def looked_at(given)
        case @rule.kind
        when "filter"
          said = given["audience"].is_a?(Hash) && @moment.shared_audience(given["audience"]).said?
          wrong("Say whom it is for", "settings.audience") unless said
          {}
        when "tag" then there?(Records::Tag, given["tag_id"], "tag")
        when "list" then there?(Records::List, given["list_id"], "list")
        when "field" then field(given)
        when "yearly" then yearly(given)
        else {}
        end
      end

      def there?(kind, id, word)
        return {} if id.is_a?(Integer) && kind[id]

        wrong("There is no such #{word}", "settings.#{word}_id")
      end

      def field(given)
        wrong("There is no such field", "settings.field") unless given["field"].is_a?(String) && @moment.catalogue[given["field"]]
        given.slice("from", "to")
      end

      def yearly(given)
        field = given["field"].is_a?(String) && @moment.catalogue[given["field"]]
        wrong("Choose a date of people", "settings.field") unless field && field.type == :date && field.subject == "person"
        days = given["days"]
        wrong("Say a number of days from -366 to 366", "settings.days") unless days.is_a?(Integer) && days.between?(-366, 366)
        {}
      end

      def wrong(words, at) = raise(Invalid.new("#{words}.", at: at))
    end
  end
end
