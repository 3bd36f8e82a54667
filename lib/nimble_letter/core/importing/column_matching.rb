# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # Finds the field each column of a file is meant for: by what was chosen for such a header before, by its name, and by
      # what stands in it. Each field is given once.
      class ColumnMatching
        COMPANY = "person.company"
        # Names people give to columns, folded; the catalogue's own labels are known besides.
        OTHER_NAMES = {
          "person.first_name" => [
            "first",
            "given name",
            "forename",
            "christian name",
            "vorname",
            "prenom",
            "nombre",
            "fname",
            "firstname",
            "given names"
          ],
          "person.last_name" => [
            "last",
            "surname",
            "family name",
            "nachname",
            "nom",
            "apellido",
            "lname",
            "lastname",
            "second name",
            "name"
          ],
          "person.email" => [
            "email",
            "e-mail",
            "mail",
            "email address",
            "e-mail address",
            "mail address",
            "courriel",
            "correo",
            "email 1",
            "primary email",
            "work email"
          ],
          "person.phone" => [
            "telephone",
            "tel",
            "mobile",
            "cell",
            "phone number",
            "telefon",
            "mobile phone",
            "telephone number",
            "work phone"
          ],
          COMPANY => [
            "company",
            "company name",
            "organisation",
            "organization",
            "firm",
            "employer",
            "business",
            "account",
            "account name",
            "firma",
            "entreprise",
            "organisation name"
          ],
          "person.job_title" => ["job title", "position", "role", "function", "job", "occupation"],
          "person.title" => %w[salutation prefix honorific anrede],
          "person.city" => %w[town place ort stadt ville ciudad locality],
          "person.region" => ["county", "state", "province", "land kreis", "state/province", "district"],
          "person.country" => %w[nation land pays country/region],
          "person.birthday" => ["birth date", "date of birth", "dob", "born", "geburtstag", "birthdate", "anniversaire"],
          "person.tags" => %w[tags labels keywords categories groups label category],
          "person.lists" => ["lists", "mailing list", "list name"],
          "person.owner" => ["owner", "looked after by", "salesperson", "account manager", "assigned to", "responsible"],
          "person.known_as" => ["nickname", "preferred name", "called"],
          "person.consent" => ["opt in", "opt-in", "optin", "permission", "newsletter consent", "gdpr"],
          "person.standing" => ["type", "status", "contact type", "kind", "relationship"],
          "person.language" => %w[lang locale sprache langue],
          "company.website" => ["website", "web", "url", "homepage", "web site"],
          "company.type" => ["industry", "sector", "business type", "company type"]
        }.freeze
        EMAIL = /\A[^\s@]+@[^\s@]+\.[^\s@]+\z/
        PHONE = %r{\A\+?[\d\s()./-]{7,}\z}
        ENOUGH = 0.8 # of the values there are

        # @param catalogue [Fields::Catalogue]
        # @param habits [Hash{String=>String,nil}] folded header to the field chosen last time, nil for left out
        def initialize(catalogue, habits: {})
          @catalogue, @habits = catalogue, habits
        end

        # @param headers [Array<String>]
        # @param samples [Array<Array<String>>] values of each column
        # @return [Array<Hash>] "field" (nil: left out) and "by" (habit, name, content, nil)
        def match(headers, samples)
          folds = headers.map { |header| Fold.call(header.to_s.tr("_", " ")) }
          found = Array.new(headers.size)
          offer(found, folds) do |fold|
            (@habits.key?(fold) && (@habits[fold].nil? || known?(@habits[fold]))) ? [@habits[fold], "habit"] : nil
          end
          offer(found, folds) { |fold| by_name(fold)&.then { |key| [key, "name"] } }
          offer(found, samples) { |values| by_content(values)&.then { |key| [key, "content"] } }
          found.map { |field, by| {"field" => field, "by" => by} }
        end

        private

        def offer(found, of_columns)
          of_columns.each_with_index do |given, i|
            next if found[i] || given.nil?

            answer = yield(given)
            found[i] = answer if answer && (answer.first.nil? || found.compact.none? { |field, _| field == answer.first })
          end
        end

        def known?(key) = key == COMPANY || @catalogue[key]&.then { |field| field.for?(:import) && !field.retired? }

        def by_name(fold) = names[bare(fold)]

        # "* E-mail:" and "e_mail" are one name.
        def bare(fold) = fold.gsub(/[^\p{L}\p{N} ]+/, " ").squeeze(" ").strip

        # The catalogue's own words go before other people's; a bare "phone" is the person's, not the company's.
        def names
          @names ||= begin
            own = @catalogue.for(:import).reject { |field| field.subject == "deal" || field.key == "company.name" }
            others = OTHER_NAMES.flat_map { |key, words| words.map { |word| [word, key] } }
            named = own.select { |field| field.subject == "person" }.map { |field| [Fold.call(field.name.tr("_", " ")), field.key] }
            [*others, *named, *own.map { |field| [Fold.call(field.label), field.key] }].to_h { |words, key| [bare(words), key] }
          end
        end

        def by_content(values)
          values = values.map { |value| value.to_s.strip }.reject(&:empty?)
          return if values.size < 2

          share = ->(pattern) { values.count { |value| value.match?(pattern) }.fdiv(values.size) }
          return "person.email" if share.call(EMAIL) >= ENOUGH

          if share.call(PHONE) >= ENOUGH && values.none? { |value| value.match?(/\A\d{4}-\d{2}-\d{2}/) } &&
              values.any? { |value| value.match?(/[+ ]|\A0/) }
            "person.phone"
          end
        end
      end
    end
  end
end
