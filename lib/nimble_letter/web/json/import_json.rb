# frozen_string_literal: true

module NimbleLetter
  module Web
    # Files that are brought in, as the contract has them.
    module ImportJson
      # @param moment [Work::Moment]
      def self.row(import, moment)
        set = import.change_set
        {
          **import.values.slice(:id, :file_name, :format, :bytes, :state, :version, :problem, :created_at),
          rows: (import.state == "checking") ? Work::CheckImport.checked(import) : import.rows,
          counts: import.counts || {},
          choices: import.choices || {},
          by: import.account&.name,
          handled: Work::TakeIn.handled(import),
          **(set ? {change: ChangeJson.rows([set], moment).first} : {})
        }
      end

      # @param receiving [Work::ReceiveImport]
      def self.write(import, receiving, moment) =
        row(import, moment).merge(
          set_aside: Records::SetAside.where(kind: "file", key: import.id.to_s).resting.get(:reason),
          matching: (import.matching || []).map { |match| match["field"] },
          reading: import.reading.except("headers", "said", "asks"),
          asks: import.reading.fetch("asks", {}),
          **(open?(import) ? to_match(import, receiving, moment) : {columns: [], first_rows: [], targets: []})
        )

      def self.to_match(import, receiving, moment)
        targets = Core::Importing::Targets.all(Work::MatchColumns.catalogue(moment))
        {
          columns: receiving.columns(import),
          first_rows: receiving.first_rows(import),
          encodings: receiving.encodings(import),
          targets: targets.map { |field| {value: field.key, words: field.label, subject: field.subject, type: field.type} }
        }
      end
      private_class_method :to_match

      def self.open?(import) = %w[reading failed].include?(import.state) && !import.file_key.empty?
      private_class_method :open?

      # @return [Hash] rows of one verdict with what would change
      def self.rows(import, verdict, after:, limit:)
        rows = Records.db[:import_rows].where(import_id: import.id).where { number > after }
        rows = rows.where(verdict: verdict) if verdict
        page = rows.order(:number).limit(limit + 1).all
        names = Records::Person.where(id: page.map { |row| row[:person_id] }.compact.uniq).all.to_h { |person| [person.id, person.name] }
        fields = fields()
        {rows: page.first(limit).map { |row| one(row, names, fields) }, next_after: (page[limit - 1][:number] if page.size > limit)}
      end

      def self.one(row, names, fields)
        values = row[:values] ? JSON.parse(row[:values]) : {}
        changes = row[:changes] ? JSON.parse(row[:changes]) : {}
        {number: row[:number], verdict: row[:verdict], reason: row[:reason], person_id: row[:person_id], person: names[row[:person_id]],
         values: values.map { |key, value| {field: key, label: fields[key]&.label || key, value: said(fields[key], value)} },
         changes: changes.map { |key, (from, to)| change(key, fields[key], from, to) }}
      end
      private_class_method :one

      def self.change(key, field, from, to) = {field: key, label: field&.label || key, from: said(field, from), to: said(field, to)}
      private_class_method :change

      # @param value [Object] as JSON keeps it; a date stays as it is, since the page writes it as the firm does
      def self.said(field, value)
        return value.is_a?(Array) ? value.join(", ") : value&.to_s unless SAID.include?(field&.type) && value != ""

        Core::Fields::Saying.say(field, value, names: {owners: owners})
      end
      private_class_method :said

      # Tags, lists and companies stand there by their names.
      SAID = %i[money number flag choice choices reference].freeze
      private_constant :SAID

      def self.owners = Records::Account.select_hash(:id, :name)
      private_class_method :owners

      # @return [Hash{String=>Core::Fields::Field}]
      def self.fields =
        Records::FieldCatalogue.current.to_h { |field| [field.key, field] }.merge(Core::Importing::Targets::ALL)
      private_class_method :fields
    end
  end
end
