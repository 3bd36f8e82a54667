# frozen_string_literal: true

module NimbleLetter
  module Work
    # Companies, tags and lists that rows name: those that are there, and those that are made on the way.
    class ImportMarks
      COMPANY = Core::Importing::Targets::COMPANY.key

      # Of more companies than these the first are asked for again.
      MOST_KEPT = 20_000

      # @param rows [Array<Hash{String=>Object}>]
      def initialize(rows, moment)
        @moment = moment
        @made = {"companies" => [], "tags" => [], "lists" => []}
        @companies, @tags, @lists = {}, {}, {}
        learn(rows)
      end

      # Finds or makes what further rows name.
      def learn(rows)
        @companies = {} if @companies.size > MOST_KEPT
        companies(rows)
        named(rows, "person.tags", @tags) { |name| Records::Tag.found(name) || noted("tags", Records::Tag.named(name)) }
        named(rows, "person.lists", @lists) { |name| Records::List.first(name: name) || noted("lists", list(name)) }
      end

      # @return [Hash{String=>Array<Integer>}] numbers of the companies, tags and lists that were not there before
      attr_reader :made

      # @return [Hash, nil] the company's row
      def company(values) = @companies[Core::Fold.call(values[COMPANY])]

      # @return [Array<Integer>]
      def tags(values) = ids(@tags, values["person.tags"])

      def lists(values) = ids(@lists, values["person.lists"])

      private

      def noted(kind, record)
        @made[kind] << record.id
        record
      end

      def list(name)
        Records::List.create(
          name: name[0, 120],
          account_id: @moment.account&.id,
          made_from: "a file",
          created_at: @moment.now,
          updated_at: @moment.now
        )
      end

      def ids(known, names) = (names || []).map { |name| known.fetch(Core::Fold.call(name)) }.uniq

      def named(rows, key, known)
        rows.flat_map { |values| values[key] || [] }.uniq.each { |name| known[Core::Fold.call(name)] ||= yield(name).id }
      end

      def companies(rows)
        named = rows.filter_map { |values| values[COMPANY] && [Core::Fold.call(values[COMPANY]), values] }
        wanted = named.uniq(&:first).to_h.reject { |fold, _| @companies.key?(fold) }
        return if wanted.empty?

        @companies.merge!(find(wanted.keys))
        missing = wanted.reject { |fold, _| @companies.key?(fold) }
        return if missing.empty?

        Records.db[:companies].multi_insert(missing.map { |fold, values| company_of(fold, values) })
        fresh = find(missing.keys)
        @made["companies"].concat(fresh.values.map { |row| row[:id] })
        @companies.merge!(fresh)
      end

      def find(folds) =
        Records.db[:companies].where(name_fold: folds).select(:id, :name, :name_fold).order(Sequel.desc(:id)).as_hash(:name_fold)

      # What a row says of a company is taken when the company is new.
      def company_of(fold, values)
        row = {name: values[COMPANY], name_fold: fold, created_at: @moment.now, updated_at: @moment.now}
        fields.each do |field|
          row[field.column] = RecordState.to_column(field, values[field.key])
          row[field.compared_column] = Core::Fold.call(row[field.column]) if field.folded?
        end
        row[:phone_fold] = Core::Phone.fold(row[:phone])
        row
      end

      def fields =
        @fields ||=
          @moment.catalogue.select { |field| field.table == :companies && field.column && field.for?(:import) && field.name != "name" }
    end
  end
end
