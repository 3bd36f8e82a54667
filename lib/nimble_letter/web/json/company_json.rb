# frozen_string_literal: true

module NimbleLetter
  module Web
    # Companies as the contract has them.
    module CompanyJson
      # @param filled [String, nil] key of a field that has a value
      # @return [Hash] a page by name, with the total
      # @raise [Invalid]
      def self.page(words:, offset:, limit:, filled: nil)
        companies = Records::Company.dataset
        companies = companies.exclude(column(filled) => nil) if filled
        Core::Fold.call(words).to_s.split.each { |word| companies = companies.where(Sequel.function(:locate, word, :name_fold) > 0) }
        found = companies.order(:name_fold, :id).limit(limit, offset).all
        ids = found.map(&:id)
        people = Records::Person.kept.where(company_id: ids).group_and_count(:company_id).as_hash(:company_id, :count)
        deals =
          Records::Deal
            .live
            .where(company_id: ids, stage: Records::FieldCatalogue.stages_that_are("open"))
            .group(:company_id)
            .select_hash(:company_id, [Sequel.function(:count).*.as(:count), Sequel.function(:sum, :value_pence).as(:sum)])
        {
          total: companies.count,
          companies:
            found.map do |one|
              {
                id: one.id,
                name: one.name,
                type: one.type,
                city: one.city,
                people: people.fetch(one.id, 0),
                open_deals: deals.dig(one.id, 0) || 0,
                open_pence: deals.dig(one.id, 1).to_i
              }
            end
        }
      end

      def self.column(key)
        field = Records::FieldCatalogue.current[key]
        return field.column if field&.table == :companies && field.column

        raise Invalid.new("There is nothing of a company that is called #{key.inspect}.", code: :unknown_field, at: "filled")
      end
      private_class_method :column

      def self.write(company)
        fields = Records::FieldCatalogue.current.select { |field| field.table == :companies && field.column }
        people = company.people_dataset.where(Sequel[:people][:deleted_at] => nil).order(:last_name_fold, :id).limit(200).all
        {
          id: company.id,
          name: company.name,
          version: company.version || 1,
          owner_id: company.owner_id,
          values: fields.to_h { |field| [field.key, Work::RecordState.to_json_value(field, company[field.column])] },
          people: PersonRows.write(people),
          people_total: Records::Person.kept.where(company_id: company.id).count,
          deals: DealJson.rows(company.deals_dataset.live)
        }
      end
    end
  end
end
