# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/letters
      module Letters
        EMPTY = {"type" => "doc", "content" => [{"type" => "paragraph"}]}.freeze

        def self.registered(app)
          app.get "/api/letters" do
            json(letters: LetterJson.rows(Records::Letter.order(Sequel.desc(:updated_at), Sequel.desc(:id)).all))
          end

          app.post "/api/letters" do
            letter = Records::Letter.create(name: input[:name].to_s.strip.then { |name| name.empty? ? "Untitled letter" : name }, subject: EMPTY, preview: EMPTY, body: EMPTY,
              account_id: account.id, created_at: moment.now, updated_at: moment.now)
            json(LetterJson.write(letter), 201)
          end

          app.get "/api/letters/:id" do
            json(LetterJson.write(fetch_record(Records::Letter, params[:id], "letter")))
          end

          app.patch "/api/letters/:id" do
            letter = fetch_record(Records::Letter, params[:id], "letter")
            changes = Records::Letter::PARTS.filter_map { |part| [part, Core::Letters::Document.parse!(input[part], at: part.to_s, catalogue: Records::FieldCatalogue.current).to_h] if input[part] }.to_h
            changes[:name] = input[:name].strip if input[:name]
            json(LetterJson.write(letter.change!(changes, version: input[:version], now: moment.now)))
          end

          app.get "/api/letters/:id/preview" do
            letter = fetch_record(Records::Letter, params[:id], "letter")
            person = params["person_id"] ? fetch_record(Records::Person, params["person_id"], "person") : Records::Person.kept.exclude(email: nil).newest_first.first
            raise NotFound.new("There is nobody to show this letter for.", hint: "Add a person first.") unless person

            json(LetterJson.preview(letter, person, moment))
          end
        end
      end
    end
  end
end
