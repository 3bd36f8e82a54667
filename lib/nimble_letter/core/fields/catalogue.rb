# frozen_string_literal: true

require "did_you_mean"

module NimbleLetter
  module Core
    module Fields
      # The one registry of fields. A custom field is one more entry.
      class Catalogue
        include Enumerable

        STANDING = {"lead" => "lead", "client" => "client", "former_client" => "former client", "partner" => "partner"}.freeze
        COMPANY_TYPE = {"restaurant" => "restaurant", "school" => "school", "studio" => "studio",
                        "office" => "office", "architect" => "architects' practice"}.freeze
        NAME_ORDER = {"given_first" => "given name first", "family_first" => "family name first"}.freeze
        # ISO 639-1; those a small firm in Europe meets, more can be added without any other change.
        LANGUAGES = {
          "en" => "English",
          "cy" => "Welsh",
          "ga" => "Irish",
          "gd" => "Scottish Gaelic",
          "fr" => "French",
          "de" => "German",
          "nl" => "Dutch",
          "es" => "Spanish",
          "pt" => "Portuguese",
          "it" => "Italian",
          "da" => "Danish",
          "sv" => "Swedish",
          "nb" => "Norwegian",
          "fi" => "Finnish",
          "is" => "Icelandic",
          "pl" => "Polish",
          "cs" => "Czech",
          "sk" => "Slovak",
          "hu" => "Hungarian",
          "ro" => "Romanian",
          "bg" => "Bulgarian",
          "el" => "Greek",
          "tr" => "Turkish",
          "uk" => "Ukrainian",
          "ru" => "Russian",
          "lt" => "Lithuanian",
          "lv" => "Latvian",
          "et" => "Estonian",
          "hr" => "Croatian",
          "sl" => "Slovene",
          "sr" => "Serbian",
          "ar" => "Arabic",
          "he" => "Hebrew",
          "hi" => "Hindi",
          "bn" => "Bengali",
          "ur" => "Urdu",
          "pa" => "Punjabi",
          "zh" => "Chinese",
          "ja" => "Japanese",
          "ko" => "Korean",
          "vi" => "Vietnamese",
          "th" => "Thai"
        }.freeze
        # Where a firm begins; it defines its own in Settings.
        DEAL_STAGES = {
          "listening_visit" => "listening visit",
          "measured" => "measured",
          "proposal" => "proposal",
          "signed" => "signed",
          "lost" => "lost"
        }.freeze
        # Nothing longer is a wrong name; to compare takes the product of both lengths.
        LONGEST_NAME = 80
        CONSENT = {"yes" => "yes", "no" => "no", "unknown" => "unknown"}.freeze

        def initialize(fields)
          @fields = fields.to_h { |field| [field.key, field] }.freeze
          @named = self.for(:merge).each_with_object({}) { |field, all| names_of(field).each { |name| all[name] ||= field } }.freeze
          freeze
        end

        def each(&) = @fields.each_value(&)

        # @return [Field, nil]
        def [](key) = @fields[key]

        # @return [Array<Field>] those offered for one use (:condition, :merge, :column, :import)
        def for(use) = select { |field| field.for?(use) && !field.retired? }

        # @param fields [Array<Field>] more of them, or others in place of those with the same keys
        # @return [Catalogue]
        def with(fields) = Catalogue.new(to_a.to_h { |field| [field.key, field] }.merge(fields.to_h { |field| [field.key, field] }).values)

        # Finds the field meant by what somebody typed: its key, its label, or its bare name.
        # @param words [String] "first name", "company", "person.city"
        # @return [Field, nil]
        def named(words) = self[words.to_s.strip] || @named[plain(words)]

        # @return [Field, nil] the merge field whose name is nearest to a wrong one
        def nearest(words)
          return if words.to_s.length > LONGEST_NAME

          @named[DidYouMean::SpellChecker.new(dictionary: @named.keys).correct(plain(words)).first]
        end

        private

        def names_of(field) = [plain(field.key), plain(field.label), plain(field.name)].uniq

        def plain(words) = words.to_s.downcase.tr("._", "  ").squeeze(" ").strip
      end
    end
  end
end
