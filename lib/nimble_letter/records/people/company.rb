# frozen_string_literal: true

module NimbleLetter
  module Records
    # The organisation a person belongs to.
    class Company < Sequel::Model(:companies)
      include Versioned

      FOLDED = %i[name city country website].freeze

      one_to_many :people
      one_to_many :deals
      many_to_one :owner, class: "NimbleLetter::Records::Account", key: :owner_id

      # @param name [String]
      # @return [Company] found under any spelling that folds alike, or made
      def self.named(name, now:)
        fold = Core::Fold.call(name) or raise Invalid.new("A company needs a name.", at: "company")
        first(name_fold: fold) || create(name: Core::Letters::Values.clean(name)[0, 200], created_at: now, updated_at: now)
      end

      def before_save
        FOLDED.each { |part| self[:"#{part}_fold"] = Core::Fold.call(self[part]) }
        self[:phone_fold] = Core::Phone.fold(phone)
        FieldCatalogue.current.each do |field|
          self[field.compared_column] = Core::Fold.call(self[field.column]) if field.custom? && field.folded? &&
            field.table == :companies && values.key?(field.column)
        end
        @renamed = !new? && changed_columns.include?(:name)
        super
      end

      # Quick search finds people by their company's name, so a new name is written there too.
      def after_save
        super
        Person
          .where(company_id: id)
          .each { |person| person.tap { |one| one.associations[:company] = self }.save(changed: true) } if @renamed
      end

      def validate
        super
        errors.add(:name, "A company needs a name.") if Core::Fold.call(name).nil?
      end
    end
  end
end
