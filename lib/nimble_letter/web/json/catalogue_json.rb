# frozen_string_literal: true

module NimbleLetter
  module Web
    # Everything a person can choose from when asking about people or writing to them.
    module CatalogueJson
      CITIES = 200 # more would not fit a menu; the rest can be typed

      # @return [Hash] see Catalogue in openapi.yaml
      def self.write
        {
          fields: Records::FieldCatalogue.current.map(&:to_h),
          operators: Core::Conditions::Operators::TABLE.transform_values { |table| table.transform_values(&:to_s) },
          activities:
            Core::Conditions::Operators::ACTIVITIES.map do |key, activity|
              {key: key, words: activity[:words], negated: activity[:negated]}
            end,
          memberships:
            Core::Conditions::Operators::MEMBERSHIPS.map do |key, membership|
              {key: key, words: membership[:words], negated: membership[:negated]}
            end,
          letter_languages: Core::Letters::Locale::LANGUAGES.keys.map do |key|
            {value: key, words: Core::Fields::Catalogue::LANGUAGES.fetch(key)}
          end,
          lists: named(Records::List.order(:name)),
          stages: Records::FieldCatalogue.deal_stages.map { |stage| stage.transform_keys(&:to_sym) },
          colleagues: named(Records::Account.order(:name)),
          cities: cities,
          tags: Records::Tag.order(:name_fold).select_map(:name),
          letters: named(Records::Letter.order(Sequel.desc(:updated_at))),
          sequences: named(Records::Sequence.order(Sequel.desc(:id))),
          statuses: Work::MemberStatus.all.map { |rung| {key: rung.key, words: rung.words, response: rung.response} },
          mailboxes: MailboxJson.write(Records::Mailbox.in_use.order(:id).all)
        }
      end

      def self.named(dataset) = dataset.select_map(%i[id name]).map { |id, name| {id: id, name: name} }
      private_class_method :named

      # The most frequent ones, counted as they are compared; each is written as somebody has it.
      def self.cities
        folds = Records::Person.kept.exclude(city_fold: nil).group_and_count(:city_fold)
        folds = folds.order(Sequel.desc(:count), :city_fold).limit(CITIES)
        somebody = Records::Person.kept.where(Sequel[:people][:city_fold] => Sequel[:frequent][:city_fold])
        folds.naked.from_self(alias: :frequent).select_map(somebody.select(:city).limit(1).as(:city))
      end
      private_class_method :cities
    end
  end
end
