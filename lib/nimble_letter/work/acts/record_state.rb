# frozen_string_literal: true

module NimbleLetter
  module Work
    # Parts of people's records by key, read and written for many at once. What acts on many records change, what an
    # import changes, and what taking either back restores, are all said in these keys:
    # a field's key ("person.city"), and true or false for "tag:5", "list:7", "address:ana@x.example" (a further one) and "bin";
    # "place:9" is where they stand in the sequence 9 (Standing).
    # Values are as JSON keeps them: a date as "2026-05-12", an amount as text, several choices as an Array.
    class RecordState
      # A change to one of these changes what quick search finds, so those records are saved one by one.
      SEARCHED = %w[person.first_name person.last_name person.known_as person.email person.phone person.mobile person.company].freeze
      COMPANY =
        Core::Fields::Field.new(key: "person.company", label: "Company", type: :reference, table: :people, column: :company_id, uses: [])
      DO_NOT_MAIL = "person.do_not_mail"
      BIN = "bin"
      ADDRESS = "address:"
      PLACE = "place:"

      # @param moment [Moment]
      def initialize(moment)
        @moment = moment
      end

      # @param ids [Array<Integer>]
      # @param keys [Array<String>]
      # @return [Hash{Integer=>Hash{String=>Object}}]
      def read(ids, keys)
        people = Records.db[:people].where(id: ids).as_hash(:id)
        worn = held(:people_tags, :tag_id, ids, keys, "tag:")
        on = held(:list_people, :list_id, ids, keys, "list:")
        @addresses = addresses(ids, keys)
        @places = places(ids, keys)
        people.to_h { |id, row| [id, keys.to_h { |key| [key, value(key, row, worn, on)] }] }
      end

      # @param states [Hash{Integer=>Hash{String=>Object}}] what each record is to hold from now on
      def write(states)
        heard = heard_by_others(states)
        Records::AddressTurns.take_of(heard)
        states.group_by(&:last).each do |values, pairs|
          ids = pairs.map(&:first)
          columns, others = values.partition { |key, _| field(key) }
          write_columns(ids, columns.to_h)
          others.each { |key, wanted| write_other(ids, key, wanted) }
        end
        NoAtAddress.follow_people(heard, @moment)
        # Where somebody stands is no part of the record that a colleague may be typing into.
        touched = states.reject { |_, values| values.each_key.all? { |key| key.start_with?(PLACE) } }.keys
        Records.db[:people].where(id: touched).update(version: Sequel[:version] + 1, updated_at: @moment.now)
      end

      # Makes records what an act wants them to be.
      # @param ids [Array<Integer>]
      # @param wanted [Hash{String=>Object}]
      # @return [Array(Hash, Hash)] what really changed, and what was held before, each by person and key
      def change(ids, wanted)
        before = read(ids, keys_of(wanted))
        changed = before.filter_map { |id, held| changes(wanted, held).then { |change| [id, change] unless change.empty? } }.to_h
        write(changed)
        [changed, before]
      end

      # Where somebody stands may have led them on at once.
      # @param changed [Hash{Integer=>Hash{String=>Object}}] as it was written
      # @return [Hash{Integer=>Hash{String=>Object}}] as it is now
      def settled(changed)
        keys = changed.values.flat_map(&:keys).uniq.select { |key| key.start_with?(PLACE) }
        return changed if keys.empty?

        now = read(changed.keys, keys)
        changed.to_h { |id, after| [id, after.merge(now.fetch(id).slice(*after.keys))] }
      end

      # What a record would really change, with what goes with it.
      # @param wanted [Hash{String=>Object}]
      # @param held [Hash{String=>Object}] see #read; #keys_of names what has to be read
      # @return [Hash{String=>Object}] empty when all of it is so already
      def changes(wanted, held)
        wanted = Core::Sieve.keeping_no(wanted, held)
        # Several choices are a set: they are kept and compared in one order.
        wanted = wanted.transform_values { |value| value.is_a?(Array) ? value.uniq.sort : value }
        wanted = wanted.to_h { |key, value| [key, value.respond_to?(:call) ? value.call(held[key]) : value] }
        changed = wanted.reject { |key, value| held[key] == value }
        return {} if Core::Fields::GoingWith.only?(changed)

        Core::Fields::GoingWith.add(changed, @moment.today.iso8601)
      end

      # @return [Array<String>] the keys, and those of what goes with them
      def keys_of(wanted) = Core::Fields::GoingWith.add(wanted, nil).keys

      # @return [Core::Fields::Field, nil]
      def field(key) = if key == COMPANY.key
                         COMPANY
                       else
                         @moment.catalogue[key]&.then do |field|
                           (field.table == :people && field.column && !%i[tags lists].include?(field.type)) ? field : nil
                         end
                       end

      # @return [Object] as JSON keeps it
      def self.to_json_value(field, value)
        case value
        when Date then value.iso8601
        when BigDecimal then value.to_s("F")
        when Array then value
        else (field.type == :choices) ? Records::SeveralChoices.read(value) : value
        end
      end

      # @return [Object] as the column keeps it
      def self.to_column(field, value)
        return if value.nil?

        case field.type
        when :date then Date.iso8601(value.to_s)
        when :number then BigDecimal(value.to_s)
        when :choices then Records::SeveralChoices.write(value)
        else value
        end
      end

      private

      # @return [Array<Integer>] those whose "no" begins or may end, or who get another address
      def heard_by_others(states)
        told = states.select { |_, values| values.keys.intersect?(NoAtAddress::KEYS) }
        return [] if told.empty?

        saying = Records::Person.where(id: told.keys).saying_no.select_map(:id).to_set
        told.select { |id, values| saying.include?(id) || values.key?("person.email") || Core::Sieve.says_no?(values) }.keys
      end

      def value(key, row, worn, on)
        return !row[:deleted_at].nil? if key == BIN
        return worn.include?([row[:id], key.delete_prefix("tag:").to_i]) if key.start_with?("tag:")
        return on.include?([row[:id], key.delete_prefix("list:").to_i]) if key.start_with?("list:")
        return address?(row, key.delete_prefix(ADDRESS)) if key.start_with?(ADDRESS)
        return @places.fetch(key)[row[:id]] if key.start_with?(PLACE)

        self.class.to_json_value(field(key), row[field(key).column])
      end

      # The one in use need not be a further one too.
      def address?(row, email) = Core::Fold.call(email).then { |fold| fold == row[:email_fold] || @addresses.include?([row[:id], fold]) }

      def addresses(ids, keys)
        return Set.new if keys.none? { |key| key.start_with?(ADDRESS) }

        Records.db[:person_addresses].where(person_id: ids).select_map(%i[person_id email_fold]).to_set
      end

      # @return [Hash{String=>Hash{Integer=>Hash}}] by key and person
      def places(ids, keys)
        keys.select { |key| key.start_with?(PLACE) }.to_h { |key| [key, Standing.new(key.delete_prefix(PLACE).to_i, @moment).read(ids)] }
      end

      def held(table, column, ids, keys, prefix)
        wanted = keys.filter_map { |key| key.start_with?(prefix) && key.delete_prefix(prefix).to_i }
        return Set.new if wanted.empty?

        Records.db[table].where(:person_id => ids, column => wanted).select_map([:person_id, column]).to_set
      end

      def write_columns(ids, values)
        return if values.empty?

        columns = values.to_h { |key, value| [field(key).column, self.class.to_column(field(key), value)] }
        if (values.keys & SEARCHED).any?
          Records::Person.where(id: ids).each { |person| save(person, columns) }
        else
          values.each_key { |key| columns[field(key).compared_column] = Core::Fold.call(columns[field(key).column]) if field(key).folded? }
          Records.db[:people].where(id: ids).update(columns)
        end
      end

      def save(person, columns)
        columns.each { |name, value| person[name] = value }
        person.associations.delete(:company)
        person.save(changed: true)
      end

      def write_other(ids, key, wanted)
        case key
        when BIN then wanted ? PutInBin.call(ids, moment: @moment) : PutInBin.take_out(ids, moment: @moment)
        when /\A#{PLACE}/o then Standing.new(key.delete_prefix(PLACE).to_i, @moment).put(ids, wanted)
        when /\Atag:/ then put(:people_tags, :tag_id, ids, key.delete_prefix("tag:").to_i, wanted)
        when /\A#{ADDRESS}/o then put_address(ids, key.delete_prefix(ADDRESS), wanted)
        when /\Alist:/ then put(:list_people, :list_id, ids, key.delete_prefix("list:").to_i, wanted)
        else raise Invalid.new("Nothing of a record is called #{key.inspect}.", at: key)
        end
      end

      def put_address(ids, email, wanted)
        fold, addresses = Core::Fold.call(email), Records.db[:person_addresses]
        return addresses.where(person_id: ids, email_fold: fold).delete unless wanted

        addresses.insert_ignore.import(%i[person_id email email_fold], ids.map { |id| [id, email, fold] })
      end

      def put(table, column, ids, other, wanted)
        if wanted
          # Somebody may have taken the tag or the list away since; then there is nothing to put on.
          return unless Records.db[(table == :people_tags) ? :tags : :lists].where(id: other).any?

          Records.db[table].insert_ignore.import([:person_id, column], ids.map { |id| [id, other] })
        else
          Records.db[table].where(:person_id => ids, column => other).delete
        end
      end
    end
  end
end
