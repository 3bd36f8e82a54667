# frozen_string_literal: true

module NimbleLetter
  module Core
    module Fields
      # The fields every firm starts with.
      module Standard
        ANYWHERE = %i[condition merge column].freeze

        def self.catalogue = CATALOGUE

        def self.field(key, label, type, uses: ANYWHERE, **rest) = Field.new(key: key, label: label, type: type, uses: uses, **rest)
        private_class_method :field

        def self.person(name, label, type, column: name.to_sym, **rest)
          field("person.#{name}", label, type, table: :people, column: column, **rest)
        end
        private_class_method :person

        PERSON = [
          person("first_name", "First name", :text),
          person("last_name", "Last name", :text),
          person("title", "Title", :text, uses: %i[merge column]),
          person("standing", "Standing", :choice, choices: Catalogue::STANDING, phrase: "is a", uses: %i[condition column]),
          person("city", "City", :text, phrase: "is in"),
          person("country", "Country", :text, phrase: "lives in"),
          person("job_title", "Job title", :text),
          person("email", "Address", :text, uses: %i[condition column]),
          person("phone", "Phone", :text, uses: %i[column]),
          person("owner", "Owner", :reference, column: :owner_id, phrase: "is looked after by", uses: %i[condition column]),
          person("tags", "Tag", :tags, phrase: "is tagged", uses: %i[condition column]),
          person("consent", "Consent", :choice, choices: Catalogue::CONSENT, phrase: "whose consent is", uses: %i[condition column]),
          person("do_not_mail", "Do-not-mail", :flag, phrase: "asked not to be written to", uses: %i[condition]),
          person("address_failed", "Address failed", :flag, phrase: "whose address failed before", uses: %i[condition]),
          person("fitted_on", "Room fitted on", :date, phrase: "whose room was fitted")
        ].freeze

        COMPANY = [
          field("company.name", "Company", :text, table: :companies, column: :name, phrase: "whose company is"),
          field("company.type", "Company type", :choice, table: :companies, column: :type, choices: Catalogue::COMPANY_TYPE,
            phrase: "whose company type is"),
          field("company.city", "Company city", :text, table: :companies, column: :city, phrase: "whose company is in")
        ].freeze

        # Worked out when a letter is written to somebody, so they can be merged but not searched for.
        WORKED_OUT = [
          field("owner.name", "Owner name", :text, uses: %i[merge]),
          field("owner.first_name", "Owner first name", :text, uses: %i[merge]),
          field("sender.name", "Sender name", :text, uses: %i[merge]),
          field("sender.first_name", "Sender first name", :text, uses: %i[merge]),
          field("sender.phone", "Sender phone", :text, uses: %i[merge]),
          field("today.date", "Today's date", :text, uses: %i[merge]),
          field("today.weekday", "Weekday", :text, uses: %i[merge]),
          field("today.month", "Month", :text, uses: %i[merge])
        ].freeze

        CATALOGUE = Catalogue.new(PERSON + COMPANY + WORKED_OUT)
      end
    end
  end
end
