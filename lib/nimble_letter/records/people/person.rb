# frozen_string_literal: true

module NimbleLetter
  module Records
    # One record for one human, whatever their standing.
    class Person < Sequel::Model(:people)
      include Versioned

      FOLDED = %i[first_name last_name known_as title city region country job_title email time_zone consent_how].freeze
      # Quick search looks into these, and into the company's name.
      SEARCHED = %i[first_name last_name known_as email phone mobile].freeze
      SEARCH_BYTES = 700
      # What decides whether anything may be sent.
      SAYING = [:email, *Core::Sieve::SAYS_NO.keys.map { |key| key.delete_prefix("person.").to_sym }].freeze

      many_to_one :company
      many_to_one :owner, class: "NimbleLetter::Records::Account", key: :owner_id
      many_to_many :tags, join_table: :people_tags, class: "NimbleLetter::Records::Tag"
      many_to_many :lists, join_table: :list_people, class: "NimbleLetter::Records::List"
      one_to_many :deals, order: :id
      one_to_many :members
      one_to_many :other_addresses, class: "NimbleLetter::Records::PersonAddress", order: :id

      dataset_module do
        # Held until the transaction ends, so that nobody puts them in the bin meanwhile. By number alone: all who lock several records
        # then lock them in the same order.
        # @param ids [Array<Integer>]
        # @return [Set<Integer>] those of them that are not in the bin
        def hold(ids)
          rows = where(Sequel[:people][:id] => ids).order(Sequel[:people][:id]).lock_style("LOCK IN SHARE MODE")
          rows.select_map([Sequel[:people][:id], :deleted_at]).filter_map { |id, binned_at| id unless binned_at }.to_set
        end

        # Records that are not in the bin. Every question about people asks this first.
        def kept = where(Sequel[:people][:deleted_at] => nil)

        def binned = exclude(Sequel[:people][:deleted_at] => nil).where(Sequel[:people][:emptied] => false)

        # @param folds [String, Array<String>] addresses, folded
        def at_address(folds) = where(Sequel[:people][SameAddress.column] => SameAddress.keys(Array(folds)))

        # Those whose own record says no to letters.
        def saying_no
          nos = Core::Sieve::SAYS_NO.map { |key, values| {Sequel[:people][key.delete_prefix("person.").to_sym] => values} }
          where(Sequel.|(*nos))
        end

        # Newest activity first, people never heard from last.
        def newest_first = order(Sequel.desc(Sequel[:people][:last_activity_at]), Sequel.desc(Sequel[:people][:id]))

        # Those whose address, or its domain, is on the do-not-mail list.
        def on_the_list
          single = BlockedAddress.where(kind: "address").select(SameAddress.blocked_column)
          domains = BlockedAddress.where(kind: "domain").select(:value_fold)
          where(Sequel.|({Sequel[:people][SameAddress.column] => single}, {Sequel[:people][:domain_fold] => domains}))
        end

        # @param text [String] see QuickSearch
        def with_words(text) = QuickSearch.narrow(self, text)
      end

      # @param values [Hash{Symbol=>Object}] columns of one person
      # @param company_name [String, nil]
      # @param custom [Array<Core::Fields::Field>] the firm's own fields among them that are compared folded
      # @return [Hash] with the folded twins; bulk inserts need what saving a model does
      def self.with_folds(values, company_name: nil, custom: [])
        values = FOLDED.each_with_object(values.dup) { |name, all| all[:"#{name}_fold"] = Core::Fold.call(values[name]) }
        custom.each { |field| values[field.compared_column] = Core::Fold.call(values[field.column]) if values.key?(field.column) }
        values[:phone_fold] = Core::Phone.fold(values[:phone])
        values[:mobile_fold] = Core::Phone.fold(values[:mobile])
        values[:company_fold] = Core::Fold.call(company_name)
        values[:phone_end] = Core::Phone.ending(values[:phone])
        values[:email_trunk] = Core::SameAddress.trunk(values[:email_fold])
        values[:domain_fold] = values[:email_fold]&.split("@", 2)&.last
        words = [*SEARCHED.map { |name| values[name] }, values[:phone_fold], values[:mobile_fold], company_name].compact.join(" ")
        values[:search_fold] = Core::Fold.call(words)&.byteslice(0, SEARCH_BYTES)&.scrub("")
        values
      end

      def before_save
        own = FieldCatalogue.current.select { |field| field.custom? && field.folded? && field.table == :people }
        told = values.slice(*FOLDED, :phone, :mobile, *own.map(&:column))
        set_fields_quietly(self.class.with_folds(told, company_name: company&.name, custom: own).except(*told.keys))
        follow_what_is_said if new? || changed_columns.intersect?(SAYING)
        super
      end

      def validate
        super
        errors.add(:email, "This does not look like an address.") if new_address? && !email.match?(Core::Address::PATTERN)
        if [first_name, last_name, known_as, email, company_id].none?
          errors.add(:last_name, "A record needs a name, a company or an address.")
        end
        errors.add(:time_zone, "There is no time zone of this name.") if time_zone && !Core::Calendar::Zones.known?(time_zone)
      end

      # @param row [Hash{Symbol=>Object}] columns of one person
      # @param keys [Array<String>] fields of a person
      # @return [Hash{String=>Object}] by field, as the sieve asks
      def self.asked(row, keys = Core::Sieve::ASKED) = keys.to_h { |key| [key, row[key.delete_prefix("person.").to_sym]] }

      # @return [String] as people say it; falls back to the address or the company
      def name = self.class.name_of(values) || company&.name || "Without a name"

      def self.name_of(values) = values[:emptied] ? "A removed record" : Core::Names.full(values) || values[:known_as] || values[:email]

      # An address that is there already, however it was written once, keeps nobody from changing the rest of the record.
      def new_address? = email && (new? || changed_columns.include?(:email))

      # Work::NoAtAddress tells the other records of this one.
      def no_at_address?
        return false if email_fold.nil?

        Core::Sieve.says_no?(Person.asked(values, Core::Sieve::SAYS_NO.keys)) ||
          Person.exclude(Sequel[:people][:id] => id).at_address(email_fold).saying_no.any?
      end

      # Nobody says anything else of these addresses until this is saved.
      def follow_what_is_said
        AddressTurns.take([(Person.where(id: id).get(:email_fold) unless new?), email_fold])
        set(address_blocked: BlockedAddress.blocks?(email), no_at_address: no_at_address?)
      end

      # The firm's own fields are columns that the model did not know when it was loaded.
      def set_fields_quietly(changes)
        changes.each { |name, value| self[name] = value unless self[name] == value && values.key?(name) }
        self
      end
    end
  end
end
