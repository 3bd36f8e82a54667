# frozen_string_literal: true

module NimbleLetter
  module Work
    # Changes a person's record and appends what changed, from what to what, and who did it.
    module ChangePerson
      COLUMNS = %i[first_name last_name title standing city country job_title email phone owner_id company_id time_zone consent do_not_mail address_failed fitted_on].freeze
      CHOICES = {standing: Core::Fields::Catalogue::STANDING, consent: Core::Fields::Catalogue::CONSENT}.freeze

      # @param changes [Hash{Symbol=>Object}]
      # @param tags [Array<String>, nil] the whole set, nil leaves it
      # @raise [Invalid, Conflict]
      def self.call(person, changes, version:, moment:, tags: nil)
        changes = clean(changes)
        Records.db.transaction do
          before = person.values.slice(*changes.keys)
          person.change!(changes, version: version, now: moment.now)
          changed = changes.reject { |name, value| before[name] == value }
          # A mended address is a new chance.
          person.update(address_failed: false) if changed.key?(:email) && person.address_failed && !changes.key?(:address_failed)
          changed.each { |name, value| append(person, moment, field: name, from: before[name], to: value) }
          put_tags(person, tags, moment) if tags
        end
        person
      end

      # @return [Records::Person]
      def self.create(values, moment:, tags: nil)
        Records.db.transaction do
          person = Records::Person.create(clean(values).merge(created_at: moment.now, updated_at: moment.now))
          append(person, moment, field: :record, from: nil, to: "made")
          put_tags(person, tags, moment) if tags
          person
        end
      end

      def self.clean(changes)
        changes = changes.slice(*COLUMNS).transform_values { |value| value.is_a?(String) ? Core::Letters::Values.say(value) : value }
        CHOICES.each do |name, choices|
          next unless changes.key?(name)
          raise Invalid.new("#{name.to_s.capitalize} is one of #{choices.values.join(", ")}.", at: name.to_s) unless choices.key?(changes[name])
        end
        changes
      end
      private_class_method :clean

      def self.put_tags(person, names, moment)
        wanted = names.map { |name| Records::Tag.named(name) }.uniq
        (wanted - person.tags).each { |tag| person.add_tag(tag) && append(person, moment, field: :tag, from: nil, to: tag.name) }
        (person.tags - wanted).each { |tag| person.remove_tag(tag) && append(person, moment, field: :tag, from: tag.name, to: nil) }
      end
      private_class_method :put_tags

      def self.append(person, moment, field:, from:, to:)
        Records.db[:events].insert(kind: "field_changed", person_id: person.id, occurred_at: moment.now, account_id: moment.account&.id,
          data: JSON.generate(field: field, from: from, to: to))
      end
      private_class_method :append
    end
  end
end
