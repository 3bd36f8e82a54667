# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/companies
      module Companies
        def self.registered(app)
          app.post "/api/companies/search" do
            json(CompanyJson.page(offset: 0, limit: 60, words: nil, **input.slice(:words, :filled, :offset, :limit)))
          end

          app.post "/api/companies" do
            json(CompanyJson.write(Work::ChangeCompany.create(input.fetch(:values), moment: moment)), 201)
          end

          app.get "/api/companies/:id" do
            json(CompanyJson.write(fetch_record(Records::Company, params[:id], "company")))
          end

          app.patch "/api/companies/:id" do
            company = fetch_record(Records::Company, params[:id], "company")
            Work::ChangeCompany.call(company, input.fetch(:values), version: input[:version], moment: moment)
            json(CompanyJson.write(company.refresh))
          end
        end
      end
    end
  end
end
