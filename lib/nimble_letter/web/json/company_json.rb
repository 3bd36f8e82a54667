# frozen_string_literal: true

module NimbleLetter
  module Web
    # Companies as the contract has them.
    module CompanyJson
      # @return [Hash] a page by name, with the total
      def self.page(words:, offset:, limit:)
        companies = Records::Company.dataset
        Core::Fold.call(words).to_s.split.each { |word| companies = companies.where(Sequel.function(:locate, word, :name_fold) > 0) }
        found = companies.order(:name_fold, :id).limit(limit, offset).all
        ids = found.map(&:id)
        people = Records::Person.kept.where(company_id: ids).group_and_count(:company_id).as_hash(:company_id, :count)
        open = Records::FieldCatalogue.deal_stages.select { |stage| stage["outcome"] == "open" }.map { |stage| stage["key"] }
        deals =
          Records::Deal
            .where(company_id: ids, stage: open)
            .group(:company_id)
            .select_hash(:company_id, Sequel.function(:sum, :value_pence).as(:sum))
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
                open_pence: deals.fetch(one.id, 0).to_i
              }
            end
        }
      end

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
          deals: DealJson.rows(company.deals_dataset)
        }
      end
    end
  end
end
