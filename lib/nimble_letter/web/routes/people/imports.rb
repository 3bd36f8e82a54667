# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/imports: a file, its columns, the check, the taking in, what came back; /api/people/export
      module Imports
        ROWS = 100

        def self.registered(app)
          app.get "/api/imports" do
            json(imports: Records::Import.order(Sequel.desc(:id)).limit(30).all.map { |import| ImportJson.row(import, moment) })
          end

          # The file itself is the body, so that it is read piece by piece.
          app.post "/api/imports" do
            import = receiving.receive(request.body, name: params["name"])
            json(ImportJson.write(import, receiving, moment), 201)
          end

          app.get "/api/imports/:id" do
            json(ImportJson.write(fetch_record(Records::Import, params[:id], "file"), receiving, moment))
          end

          app.patch "/api/imports/:id" do
            import = fetch_record(Records::Import, params[:id], "file")
            version = input[:version]
            Records.db.transaction do
              version = receiving.read_again(import, input[:reading], version: version).version if input[:reading]
              Work::MatchColumns.new(import, settings.imports, moment).say(input[:matching], version: version) if input[:matching]
            end
            json(ImportJson.write(import, receiving, moment))
          end

          app.post "/api/imports/:id/check" do
            import = fetch_record(Records::Import, params[:id], "file")
            Work::StartImport.check(
              import,
              input[:matching],
              input.fetch(:options, {}),
              version: input[:version],
              folder: settings.imports,
              moment: moment
            )
            json(ImportJson.row(import, moment))
          end

          app.post "/api/imports/:id/take" do
            import = fetch_record(Records::Import, params[:id], "file")
            taken = Work::StartImport.take(import, input.fetch(:choices, {}), version: input[:version], moment: moment)
            json(ImportJson.row(taken, moment))
          end

          app.get "/api/imports/:id/rows" do
            import = fetch_record(Records::Import, params[:id], "file")
            json(ImportJson.rows(import, params["verdict"], after: params["after"].to_i, limit: ROWS))
          end

          app.get "/api/imports/:id/refused" do
            import = fetch_record(Records::Import, params[:id], "file")
            file = Work::RefusedRows.file(import)
            content_type "text/csv; charset=utf-8"
            attachment("refused-#{import.id}.csv")
            file
          end

          app.get "/api/imports/:id/people" do
            import = fetch_record(Records::Import, params[:id], "file")
            json(PersonRows.page(Work::TakeIn.people(import), moment: moment, cursor: params["cursor"]))
          end

          app.post "/api/people/export" do
            people = PeopleAsked.chosen(input[:people].transform_keys(&:to_sym), moment)
            export =
              Work::ExportPeople.new(
                people,
                format: input[:format],
                moment: moment,
                columns: input.fetch(:columns, []),
                sort: input[:sort]
              )
            content_type Work::ExportPeople::FORMATS.fetch(export.format)
            attachment("people-#{moment.today.iso8601}.#{(export.format == "vcard") ? "vcf" : export.format}")
            export.file
          end
        end
      end
    end
  end
end
