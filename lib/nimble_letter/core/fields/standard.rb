# frozen_string_literal: true

module NimbleLetter
  module Core
    module Fields
      # The fields every firm starts with.
      module Standard
        EVERYWHERE = %i[condition merge column import].freeze
        KEPT = %i[condition column import].freeze

        def self.catalogue = CATALOGUE

        def self.field(key, label, type, uses: EVERYWHERE, **rest) = Field.new(key: key, label: label, type: type, uses: uses, **rest)
        private_class_method :field

        def self.person(name, label, type, column: name.to_sym, **rest)
          field("person.#{name}", label, type, table: :people, column: column, **rest)
        end
        private_class_method :person

        def self.company(name, label, type, column: name.to_sym, **rest)
          field("company.#{name}", label, type, table: :companies, column: column, **rest)
        end
        private_class_method :company

        def self.deal(name, label, type, column: name.to_sym, uses: %i[condition merge], **rest)
          field("deal.#{name}", label, type, table: :deals, column: column, uses: uses, **rest)
        end
        private_class_method :deal

        PERSON = [
          person("first_name", "First name", :text),
          person("last_name", "Last name", :text),
          person("known_as", "Known as", :text, phrase: "is known as", noun: "nickname"),
          person("title", "Title", :text, sorted: false),
          person("name_order", "Name order", :choice, choices: Catalogue::NAME_ORDER, uses: %i[column import], sorted: false),
          person("standing", "Standing", :choice, choices: Catalogue::STANDING, phrase: "is a", uses: KEPT),
          person(
            "standing_since",
            "Standing since",
            :date,
            phrase: "whose standing changed",
            noun: "“Standing since”",
            uses: %i[condition column]
          ),
          person("city", "City", :text, phrase: "is in"),
          person("region", "Region", :text, phrase: "whose region is"),
          person("country", "Country", :text, phrase: "lives in"),
          person("language", "Language", :choice, choices: Catalogue::LANGUAGES, phrase: "reads", uses: KEPT),
          person("time_zone", "Time zone", :text, uses: %i[column import], sorted: false),
          person("job_title", "Job title", :text),
          person("email", "Address", :text, uses: KEPT),
          person("phone", "Phone", :text, noun: "phone number", uses: KEPT),
          person("mobile", "Mobile", :text, noun: "mobile number", uses: KEPT, sorted: false),
          person("birthday", "Birthday", :date, phrase: "whose birthday is"),
          person("owner", "Owner", :reference, column: :owner_id, phrase: "is looked after by", uses: KEPT),
          person("tags", "Tag", :tags, phrase: "is tagged", uses: KEPT),
          person("lists", "List", :lists, phrase: "is on the list", uses: KEPT),
          person("consent", "Consent", :choice, choices: Catalogue::CONSENT, phrase: "whose consent is", uses: KEPT),
          person("consent_on", "Consent since", :date, phrase: "whose consent was noted", noun: "“Consent since”", uses: KEPT),
          person(
            "consent_how",
            "Consent obtained",
            :text,
            phrase: "whose consent was obtained by",
            noun: "way of consent",
            uses: KEPT,
            sorted: false
          ),
          person("do_not_mail", "Do-not-mail", :flag, phrase: "asked not to be written to", uses: KEPT, sorted: false),
          person(
            "address_blocked",
            "On the do-not-mail list",
            :flag,
            phrase: "whose address or domain is on the do-not-mail list",
            uses: KEPT,
            sorted: false
          ),
          person(
            "no_at_address",
            "A no at the address",
            :flag,
            phrase: "at whose address somebody said no",
            uses: KEPT,
            sorted: false
          ),
          person(
            "address_failed",
            "Address failed",
            :flag,
            phrase: "whose address failed before",
            uses: KEPT,
            sorted: false
          ),
          person("fitted_on", "Room fitted on", :date, phrase: "whose room was fitted", noun: "“Room fitted on”"),
          person("added_on", "Added on", :date, phrase: "was added", noun: "“Added on”", uses: %i[condition column])
        ].freeze

        COMPANY = [
          company("name", "Company", :text, phrase: "whose company is", noun: "company’s name"),
          company(
            "type",
            "Company type",
            :choice,
            choices: Catalogue::COMPANY_TYPE,
            phrase: "whose company type is",
            noun: "company type",
            sorted: false
          ),
          company("city", "Company city", :text, phrase: "whose company is in", noun: "company’s city", sorted: false),
          company(
            "country",
            "Company country",
            :text,
            phrase: "whose company is in the country",
            noun: "company’s country",
            sorted: false
          ),
          company("website", "Company website", :link, phrase: "whose company’s website is", noun: "company’s website", sorted: false),
          company(
            "phone",
            "Company phone",
            :text,
            phrase: "whose company’s phone number is",
            noun: "company’s phone number",
            uses: KEPT,
            sorted: false
          )
        ].freeze

        # A person may have several, so a condition asks whether there is one that fits all that is said of it.
        DEAL = [
          deal("name", "Deal", :text, phrase: "is called", noun: "name"),
          deal("stage", "Deal stage", :choice, choices: Catalogue::DEAL_STAGES, phrase: "is at", noun: "stage"),
          deal("value", "Deal value", :money, column: :value_pence, phrase: "is worth", noun: "value"),
          deal("expected_on", "Deal expected on", :date, phrase: "is expected", noun: "“Deal expected on”"),
          deal("closed_on", "Deal closed on", :date, phrase: "was closed", noun: "“Deal closed on”"),
          deal("owner", "Deal owner", :reference, column: :owner_id, phrase: "is looked after by", noun: "owner", uses: %i[condition])
        ].freeze

        # Columns that are put together from several facts.
        SHOWN = [
          field("person.name", "Name", :text, uses: %i[column]),
          field("person.addresses", "Further addresses", :text, uses: %i[column]),
          field("activity.last", "Last heard from", :text, uses: %i[column]),
          field("membership.now", "Now in", :text, uses: %i[column])
        ].freeze

        # Worked out when a letter is written to somebody, so they can be merged but not searched for.
        WORKED_OUT = [
          field("person.full_name", "Full name", :text, uses: %i[merge]),
          field("person.called", "What to call them", :text, uses: %i[merge], comes_from: "person.first_name"),
          field("owner.name", "Owner name", :text, uses: %i[merge], comes_from: "person.owner"),
          field("owner.first_name", "Owner first name", :text, uses: %i[merge], comes_from: "person.owner"),
          field("sender.name", "Sender name", :text, uses: %i[merge]),
          field("sender.first_name", "Sender first name", :text, uses: %i[merge]),
          field("sender.phone", "Sender phone", :text, uses: %i[merge]),
          field("sender.email", "Sender address", :text, uses: %i[merge]),
          field("deal.owner_name", "Deal owner name", :text, uses: %i[merge]),
          field("sequence.name", "Sequence", :text, uses: %i[merge]),
          field("today.date", "Today's date", :date, uses: %i[merge]),
          field("today.weekday", "Weekday", :date, uses: %i[merge], form: "weekday_name"),
          field("today.month", "Month", :date, uses: %i[merge], form: "month_name")
        ].freeze

        # What outside services answer, see Letters::Lookups: merged, and asked about by the passages of a letter.
        LOOKED_UP = [
          field("lookup.weather", "Weather in their city", :text, uses: %i[merge passage], phrase: "whose weather is"),
          field("lookup.temperature", "Degrees in their city", :number, uses: %i[merge passage], phrase: "whose degrees are"),
          field("lookup.rain", "Rain in their city", :flag, uses: %i[merge passage], phrase: "sees rain in their city")
        ].freeze

        CATALOGUE = Catalogue.new(PERSON + COMPANY + DEAL + SHOWN + WORKED_OUT + LOOKED_UP)
      end
    end
  end
end
