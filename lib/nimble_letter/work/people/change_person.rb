# frozen_string_literal: true

module NimbleLetter
  module Work
    # Changes one person's record and appends what changed, from what to what, and who did it.
    class ChangePerson
      # Set by their own rules.
      OTHERS = {"person.tags" => :tags, "person.lists" => :lists}.freeze
      SAYS_NO = Core::Sieve::SAYS_NO.keys.freeze

      # @param values [Hash{String=>Object}] by field key; "person.company" by name, "person.tags" the whole set
      # @param version [Integer] as it was read
      # @raise [Invalid, Conflict]
      # @return [Records::Person]
      def self.call(person, values, version:, moment:) = new(person, moment).change(values, version)

      # @return [Records::Person]
      def self.create(values, moment:)
        person = Records::Person.new(created_at: moment.now, updated_at: moment.now, added_on: moment.today, standing_since: moment.today)
        new(person, moment).make(values)
      end

      def initialize(person, moment)
        @person, @moment = person, moment
      end

      def change(values, version)
        Records.db.transaction do
          columns = columns(values)
          heard = columns.keys.intersect?(NoAtAddress::COLUMNS)
          Records::AddressTurns.take([@person.email_fold, Core::Fold.call(columns[:email])]) if heard
          keep_no(columns)
          before = @person.values.slice(*columns.keys)
          was = @person.values.dup
          # A mended address is a new chance.
          columns[:address_failed] = false if columns.key?(:email) && columns[:email] != before[:email] && !columns.key?(:address_failed)
          @person.change!(columns, version: version, now: @moment.now, touched: values.keys.intersect?(OTHERS.keys))
          append(columns, before)
          put_sets(values)
          follow_no(was) if heard
        end
        @person
      end

      def make(values)
        Records.db.transaction do
          columns(values).each { |name, value| @person[name] = value }
          @person.save
          event("record", nil, "made")
          put_sets(values)
          NoAtAddress.follow([@person.email_fold], @moment)
        end
        @person
      end

      private

      # A "no" is not edited away.
      def keep_no(columns)
        wanted = columns.transform_keys { |name| "person.#{name}" }
        key = Core::Sieve.ending_no(wanted, Records::Person.asked(@person.refresh.values, SAYS_NO)).first or return
        raise Invalid.new(
          "This record says no to letters. Only saying how you know that they want letters again ends that.",
          code: :says_no,
          at: key,
          hint: "Choose “They want letters again” on the record."
        )
      end

      # The "no" goes along with the record, and stays with the address it was said at.
      def follow_no(was)
        moved = was[:email_fold] != @person.email_fold
        NoAtAddress.remember([was], @moment) if moved && NoAtAddress.says_no?(was)
        NoAtAddress.follow([was[:email_fold], @person.email_fold], @moment)
      end

      def columns(values)
        columns = values.except(*OTHERS.keys, RecordState::COMPANY.key).to_h { |key, value| column(key, value) }
        if values.key?(RecordState::COMPANY.key)
          name = values[RecordState::COMPANY.key]
          columns[:company_id] = Core::Fold.call(name) && Records::Company.named(name, now: @moment.now).id
        end
        dated(columns)
      end

      def column(key, value)
        field = @moment.catalogue[key]
        changeable = field&.table == :people && field.for?(:import) && !Core::Sieve::FOLLOWING.include?(key)
        unless changeable
          raise Invalid.new("There is nothing to change that is called #{key.inspect}.", code: :unknown_field, at: key)
        end
        taken = @moment.taking.take(field, value)
        taken = Records::SeveralChoices.write(taken || []) if field.type == :choices
        if taken.nil? &&
            (%i[flag].include?(field.type) && !field.custom? || %w[person.standing person.consent person.name_order].include?(key))
          raise Invalid.new("#{field.label} cannot be empty.", at: key)
        end
        [field.column, taken]
      end

      # Standing and consent carry the day they changed and who noted it; the time zone follows the country until somebody sets it.
      def dated(columns)
        changed =
          Core::Fields::GoingWith::DAYS.keys.select do |key|
            columns.key?(column_of(key)) && columns[column_of(key)] != @person[column_of(key)]
          end
        added =
          Core::Fields::GoingWith
            .add(changed.to_h { |key| [key, nil] }, @moment.today)
            .except(*changed)
            .transform_keys { |key| column_of(key) }
        added[:consent_by_id] = @moment.account&.id if changed.include?("person.consent")
        columns = added.merge(columns)
        if columns.key?(:country) && !columns.key?(:time_zone) &&
            (@person.time_zone.nil? || @person.time_zone == Core::Calendar::Countries.zone(@person.country))
          columns[:time_zone] = Core::Calendar::Countries.zone(columns[:country]) || @person.time_zone
        end
        columns
      end

      def column_of(key) = @moment.catalogue[key].column

      SILENT = [*Core::Fields::GoingWith::KEYS.map { |key| Core::Fields::Standard.catalogue[key].column }, :consent_by_id].freeze

      def append(columns, before)
        keys = @moment.catalogue.select { |field| field.table == :people && field.column }.to_h { |field| [field.column, field] }
        columns.each do |name, value|
          next if SILENT.include?(name) || before[name] == value

          field = keys[name] || RecordState::COMPANY
          event(field.key, in_words(field, before[name]), in_words(field, value), how: (name == :consent) ? columns[:consent_how] : nil)
        end
      end

      def in_words(field, value)
        return value && Records::Company.where(id: value).get(:name) if field.key == RecordState::COMPANY.key
        return value && Records::Account.where(id: value).get(:name) if field.type == :reference

        RecordState.to_json_value(field, value)
      end

      def put_sets(values)
        put_tags(values["person.tags"]) if values["person.tags"]
        put_lists(values["person.lists"]) if values["person.lists"]
      end

      def put_tags(names)
        most = Records::Tag::MOST_A_PERSON
        raise Invalid.new("A person has at most #{most} tags.", code: :too_many, at: "values.person.tags") if names.size > most

        wanted = names.map { |name| Records::Tag.named(name) }.uniq
        (wanted - @person.tags).each { |tag| @person.add_tag(tag) && event("tag", nil, tag.name) }
        (@person.tags - wanted).each { |tag| @person.remove_tag(tag) && event("tag", tag.name, nil) }
      end

      def put_lists(ids)
        wanted = Records::List.where(id: ids).all
        (wanted - @person.lists).each { |list| @person.add_list(list) && event("list", nil, list.name) }
        (@person.lists - wanted).each { |list| @person.remove_list(list) && event("list", list.name, nil) }
      end

      def event(field, from, to, how: nil)
        Records.db[:events].insert(
          kind: "field_changed",
          person_id: @person.id,
          occurred_at: @moment.now,
          account_id: @moment.account&.id,
          data: JSON.generate({field: field, from: from, to: to, how: how}.compact)
        )
      end
    end
  end
end
