# frozen_string_literal: true

module NimbleLetter
  module Work
    # Says what the columns of a file are meant for and lets it be checked; then, with the numbers read, lets it be
    # taken in. The work itself is done in the background (CheckImport, TakeIn).
    module StartImport
      DEFAULTS = {"new" => "take", "update" => "replace", "doubtful" => "leave"}.freeze
      # States in which one may say what the columns are for.
      TO_CHECK = %w[reading checking checked failed].freeze
      KINDS = {"new" => %w[take leave], "update" => %w[replace fill leave], "doubtful" => %w[leave new update]}.freeze

      # @param matching [Array<String, nil>] field key of each column
      # @param options [Hash] "owners": what to do with names no colleague has (folded name to number or nil)
      def self.check(import, matching, options, version:, folder:, moment:)
        raise Invalid.new("This file is taken in already.", code: :taken_in) unless TO_CHECK.include?(import.state)

        refuse_twice(import, options)
        sound!(matching, moment)
        # Refused, it leaves the file as it was read.
        Records.db.transaction do
          MatchColumns.new(import, folder, moment).say(matching, version: version)
          ask(import)
          begin_check(import, options, moment)
        end
        # "Column 1" says nothing of the next file without headers.
        remember(import, matching, moment) unless import.reading["header"] == Core::Importing::HeaderRow::NONE
        import
      end

      def self.sound!(matching, moment)
        once = matching.compact - Core::Importing::ColumnMatching::SEVERAL
        twice = once.tally.find { |_, times| times > 1 }&.first
        raise Invalid.new("Two columns are meant for #{label(twice, moment)}.", at: "matching", hint: "Leave one of them out.") if twice
        unless (Core::Importing::RowReading::KNOWN_BY & matching).any?
          raise Invalid.new(
            "No column is meant for a name, a company or an address.",
            at: "matching",
            hint: "Choose what the columns hold."
          )
        end
      end
      private_class_method :sound!

      def self.begin_check(import, options, moment)
        import.change!(
          {
            choices: DEFAULTS.merge("owners" => owners(options["owners"] || {})),
            state: "checking",
            counts: {},
            laid_out: false,
            rows: 0,
            problem: nil
          },
          version: import.version,
          now: moment.now
        )
        CheckImport.begin_anew(import)
      end
      private_class_method :begin_check

      # @param choices [Hash] new, update and doubtful; "tags" and "lists" put on everybody taken in
      def self.take(import, choices, version:, moment:)
        raise Invalid.new("This file is not checked yet.", code: :not_checked) unless import.state == "checked"

        KINDS.each do |kind, known|
          if choices.key?(kind) && !known.include?(choices[kind])
            raise Invalid.new("#{kind} is one of #{known.join(", ")}.", at: "choices.#{kind}")
          end
        end
        Records.db.transaction do
          set =
            Records::ChangeSet.create(
              kind: "import",
              words: "Brought in #{import.file_name}"[0, 300],
              act: {
                "import_id" => import.id
              },
              state: "running",
              account_id: moment.account&.id,
              created_at: moment.now
            )
          import.change!(
            {
              choices: DEFAULTS.merge(import.choices || {}, choices.slice("new", "update", "doubtful", "tags", "lists")),
              state: "taking_in",
              change_set_id: set.id
            },
            version: version,
            now: moment.now
          )
        end
        import
      end

      # @return [Hash{String=>Integer,nil}] by folded name
      def self.owners(given)
        given.to_h do |name, id|
          raise Invalid.new("There is no such colleague.", at: "options.owners") unless id.nil? || Records::Account[id]

          [Core::Fold.call(name), id]
        end
      end
      private_class_method :owners

      def self.label(key, moment) = Core::Importing::Targets.find(key, MatchColumns.catalogue(moment))&.label&.downcase || key.inspect
      private_class_method :label

      # The same file again is nearly always a mistake; whoever means it can say so.
      def self.refuse_twice(import, options)
        return if options["again"]

        earlier =
          Records::Import.where(digest: import.digest, state: %w[taking_in done]).exclude(id: import.id).order(Sequel.desc(:id)).first or
          return
        raise Conflict.new(
          "The same file was brought in before.",
          code: :same_file,
          hint: "Go on only if you mean to.",
          data: {
            import_id: earlier.id,
            at: earlier.created_at.getutc.iso8601
          }
        )
      end
      private_class_method :refuse_twice

      # Where a column could be read in two ways, somebody says which; nobody guesses.
      def self.ask(import)
        reading = import.reading.fetch("asks", {}).keys.find { |key| import.reading[key].nil? } or return
        message, hint = Core::Importing::Unclear::QUESTIONS.fetch(reading)
        raise Invalid.new(message, code: :"#{reading}_unclear", at: "reading.#{reading}", hint: hint)
      end
      private_class_method :ask

      def self.remember(import, matching, moment)
        rows =
          import.reading["headers"]
            .zip(matching)
            .filter_map { |header, key| (fold = Core::Fold.call(header.tr("_", " "))) && [fold[0, 190], key, moment.now] }
            .uniq(&:first)
        Records.db[:column_habits].on_duplicate_key_update(:field, :updated_at).import(%i[header_fold field updated_at], rows) if rows.any?
      end
      private_class_method :remember
    end
  end
end
