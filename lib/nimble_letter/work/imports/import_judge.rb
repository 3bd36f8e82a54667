# frozen_string_literal: true

module NimbleLetter
  module Work
    # Finds for some rows the records they may be about, and judges each: new, update, same or doubtful.
    # The same address is the same person; the same name and company, or the same phone, may be.
    class ImportJudge
      # Values as the JSON of a row keeps them.
      def self.json(value)
        case value
        when Date then value.iso8601
        when BigDecimal then value.to_s("F")
        else value
        end
      end

      # @param rows [Array<Hash{String=>Object}>] values by field key
      def initialize(rows, moment)
        @moment = moment
        @notes = rows.any? { |values| values.key?(Core::Importing::Targets::NOTE.key) }
        @by_address = by_address(rows.filter_map { |values| Core::Fold.call(values["person.email"]) })
        # Of those whose address is known nothing more need be found out.
        rows = rows.reject { |values| @by_address.key?(Core::Fold.call(values["person.email"])) }
        @by_name = by_name(rows)
        @by_phone = by_phone(rows)
        people = Records::Person.where(id: @by_address.values.uniq).all
        @held = held(people)
      end

      # @return [Array] verdict, person_id, reason, changes (see Core::Importing::Comparison)
      def verdict(values)
        id = @by_address[Core::Fold.call(values["person.email"])]
        return known(id, values) if id

        other, reason = likely(values)
        other ? ["doubtful", other, reason, nil] : ["new", nil, nil, nil]
      end

      private

      def known(id, values)
        changes = Core::Importing::Comparison.changes(values.except("person.email"), @held.fetch(id))
        changes.empty? ? ["same", id, nil, nil] : ["update", id, nil, changes]
      end

      def likely(values)
        name = name_key(values["person.first_name"], values["person.last_name"], values[Core::Importing::Targets::COMPANY.key])
        return [@by_name[name], "Same name and company as another record."] if name && @by_name[name]

        phone = Core::Phone.ending(values["person.phone"])
        return [@by_phone[phone], "Same phone as another record."] if phone && @by_phone[phone]

        nil
      end

      def name_key(first, last, company)
        key = [Core::Fold.call(first), Core::Fold.call(last), Core::Fold.call(company)]
        (key.first && key[1]) ? key : nil
      end

      def by_address(folds)
        kept = Records::Person.kept
        further =
          Records.db[:person_addresses]
            .where(Sequel[:person_addresses][:email_fold] => folds)
            .join(:people, id: :person_id)
            .where(Sequel[:people][:deleted_at] => nil)
            .order(Sequel.desc(:person_id))
            .select_hash(Sequel[:person_addresses][:email_fold], :person_id)
        # Of several records with one address the oldest keeps it, as in the sieve.
        further.merge(
          kept.where(Sequel[:people][:email_fold] => folds).order(Sequel.desc(Sequel[:people][:id])).select_hash(:email_fold, :id)
        )
      end

      def by_name(rows)
        lasts = rows.filter_map { |values| values["person.first_name"] && Core::Fold.call(values["person.last_name"]) }.uniq
        firsts = rows.filter_map { |values| values["person.last_name"] && Core::Fold.call(values["person.first_name"]) }.uniq
        return {} if lasts.empty?

        found =
          Records.db[:people]
            .where(Sequel[:people][:deleted_at] => nil, :last_name_fold => lasts, :first_name_fold => firsts)
            .left_join(:companies, id: :company_id)
            .order(Sequel.desc(Sequel[:people][:id]))
            .select_map([:first_name_fold, :last_name_fold, :name_fold, Sequel[:people][:id]])
        found.to_h { |first, last, company, id| [[first, last, company], id] }
      end

      def by_phone(rows)
        ends = rows.filter_map { |values| Core::Phone.ending(values["person.phone"]) }.uniq
        if ends.empty?
          {}
        else
          Records::Person.kept.where(phone_end: ends).order(Sequel.desc(Sequel[:people][:id])).select_hash(:phone_end, :id)
        end
      end

      def addresses(ids) = Records.db[:person_addresses].where(person_id: ids).select_hash_groups(:person_id, :email_fold)

      # What is noted of them already is not noted again.
      def notes(ids) = @notes ? PersonNotes.folded(ids) : {}

      def held(people)
        stored = Records::Facts.stored(people)
        ids = people.map(&:id)
        tags = Records.db[:people_tags].where(person_id: ids).join(:tags, id: :tag_id).select_hash_groups(:person_id, :name_fold)
        addresses, notes = addresses(ids), notes(ids)
        lists = Records.db[:list_people].where(person_id: ids).join(:lists, id: :list_id).select_hash_groups(:person_id, :name)
        stored.to_h do |id, values|
          [
            id,
            values.merge(
              "person.company" => values["company.name"],
              "person.tags" => tags.fetch(id, []),
              Core::Importing::Targets::ADDRESSES.key => addresses.fetch(id, []) + [Core::Fold.call(values["person.email"])],
              Core::Importing::Targets::NOTE.key => notes.fetch(id, []),
              "person.lists" => lists.fetch(id, []).map { |name| Core::Fold.call(name) }
            )
          ]
        end
      end
    end
  end
end
