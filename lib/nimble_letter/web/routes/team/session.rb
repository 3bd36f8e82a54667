# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # GET /api/session, GET /api/catalogue, GET /api/search; PUT /api/date-order: how the firm writes its days
      module Session
        def self.registered(app)
          app.get "/api/session" do
            firm = Records::Firm.current
            json(
              csrf: Rack::Protection::AuthenticityToken.token(env["rack.session"]),
              practice: true,
              firm: account && {name: firm.name, time_zone: firm.time_zone, date_order: firm.date_order},
              now: account && moment.now,
              demo: Demo::Firm.sign_in,
              account: account && {id: account.id, name: account.name, email: account.email, role: account.role}
            )
          end

          app.put "/api/date-order" do
            Work::ChooseDateOrder.call(input[:date_order], moment: moment)
            json(date_order: Records::Firm.current.date_order)
          end

          app.get "/api/catalogue" do
            json(CatalogueJson.write)
          end

          app.get "/api/search" do
            words = params["words"].to_s
            fold = Core::Fold.call(words).to_s
            like = ->(dataset) do
              dataset
                .where(Sequel.ilike(:name, "%#{dataset.escape_like(words)}%"))
                .limit(6)
                .select_map(%i[id name])
                .map { |id, name| {id: id, name: name} }
            end
            people =
              (
                if fold.empty?
                  []
                else
                  PersonRows
                    .write(Records::Person.kept.with_words(words).newest_first.limit(8).all)
                    .map { |row| row.slice(:id, :name, :company) }
                end
              )
            json(people: people, letters: like.call(Records::Letter.dataset), sequences: like.call(Records::Sequence.dataset))
          end
        end
      end
    end
  end
end
