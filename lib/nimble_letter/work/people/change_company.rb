# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes and changes a company's record.
    module ChangeCompany
      # @param values [Hash{String=>Object}] by field key; "company.owner" by number
      # @raise [Invalid, Conflict]
      def self.call(company, values, version:, moment:)
        columns = columns(values, moment)
        own_name!(columns[:name], company.id) if columns.key?(:name)
        company.change!(columns, version: version, now: moment.now)
        ReckonAnew.for_people(Records::Person.where(company_id: company.id), values.keys, moment)
        company
      end

      # @return [Records::Company]
      def self.create(values, moment:)
        company = Records::Company.new(created_at: moment.now, updated_at: moment.now)
        columns(values, moment).each { |name, value| company[name] = value }
        own_name!(company.name)
        company.save
      end

      # Files and forms find a company by its name.
      def self.own_name!(name, id = nil)
        fold = Core::Fold.call(name)
        return if fold.nil? || Records::Company.exclude(id: id).where(name_fold: fold).empty?

        raise Invalid.new("There is already a company of this name.", at: "company.name")
      end
      private_class_method :own_name!

      def self.columns(values, moment)
        values.to_h do |key, value|
          if key == "company.owner"
            next :owner_id, value && (Records::Account[value]&.id || raise(Invalid.new("There is no such colleague.", at: key)))
          end

          field = moment.catalogue[key]
          unless field&.table == :companies
            raise Invalid.new("There is nothing of a company that is called #{key.inspect}.", code: :unknown_field, at: key)
          end

          taken = moment.taking.take(field, value)
          [field.column, (field.type == :choices) ? Records::SeveralChoices.write(taken || []) : taken]
        end
      end
      private_class_method :columns
    end
  end
end
