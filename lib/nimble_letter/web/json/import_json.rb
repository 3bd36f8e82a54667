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
        sayer = sayer()
        {rows: page.first(limit).map { |row| one(row, names, sayer) }, next_after: (page[limit - 1][:number] if page.size > limit)}
      end

      # @param sayer [#call] label and words of a value, by its field's key
      def self.one(row, names, sayer)
        values = row[:values] ? JSON.parse(row[:values]) : {}
        changes = row[:changes] ? JSON.parse(row[:changes]) : {}
        {
          **row.slice(:number, :verdict, :reason, :person_id),
          person: names[row[:person_id]],
          values: values.map { |key, value| sayer.call(key, value).then { |label, (said)| {field: key, label: label, value: said} } },
          changes: changes.map do |key, pair|
            label, (from, to) = sayer.call(key, *pair)
            {field: key, label: label, from: from, to: to}
          end
        }
      end
      private_class_method :one

      # Tags, lists and companies stand there by their names, and a date as the page writes it.
      SAID = %i[money number flag choice choices reference].freeze
      private_constant :SAID

      # @return [#call] see #one; reads fields and colleagues once
      def self.sayer
        fields = Records::FieldCatalogue.current.to_h { |field| [field.key, field] }.merge(Core::Importing::Targets::ALL)
        names = {owners: Records::Account.select_hash(:id, :name)}
        ->(key, *values) { [fields[key]&.label || key, values.map { |value| said(fields[key], value, names) }] }
      end
      private_class_method :sayer

      # @param value [Object] as JSON keeps it
      def self.said(field, value, names)
        return Core::Fields::Saying.say(field, value, names: names) if SAID.include?(field&.type) && value != ""

        value.is_a?(Array) ? value.join(", ") : value&.to_s
      end
      private_class_method :said
    end
  end
end
