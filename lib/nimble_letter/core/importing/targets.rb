# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # What a column of a file can be meant for besides the fields of the catalogue.
      module Targets
        # A company by its name.
        COMPANY = Fields::Field.new(key: "person.company", label: "Company", type: :text, uses: [])
        # A whole name in one cell, see WholeName.
        NAME = Fields::Field.new(key: "person.name", label: "Whole name", type: :text, uses: [])
        # Addresses beside the one in use.
        ADDRESSES = Fields::Field.new(key: "person.addresses", label: "Further addresses", type: :text, uses: [])
        # A note in the history.
        NOTE = Fields::Field.new(key: "person.note", label: "Note", type: :long_text, uses: [])

        ALL = [COMPANY, NAME, ADDRESSES, NOTE].to_h { |field| [field.key, field] }.freeze

        # @param key [String]
        # @param catalogue [Fields::Catalogue]
        # @return [Fields::Field, nil] what can be brought in under this key
        def self.find(key, catalogue)
          ALL[key] || catalogue[key]&.then { |field| field if field.for?(:import) && !field.retired? && !elsewhere?(field) }
        end

        # Deals are begun on a record; a company's name is its person's company.
        def self.elsewhere?(field) = field.subject == "deal" || field.key == "company.name"

        # @return [Array<Fields::Field>] all of them, in the order they are offered
        def self.all(catalogue) = [*ALL.values, *catalogue.for(:import).reject { |field| elsewhere?(field) }]
      end
    end
  end
end
