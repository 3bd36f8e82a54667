# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/sessions: where one is signed in
      module Sessions
        def self.registered(app)
          app.get "/api/sessions" do
            idle = env.fetch(Safety::KEY).idle_seconds
            json(
              sessions: Records::Session.where(account_id: account.id).alive(idle).newest_first.all.map do |session|
                {
                  id: session.id,
                  agent: session.agent,
                  connection: session.connection,
                  began_at: session.created_at,
                  last_use: session.last_use,
                  current: session.id == env["nimble.session"].id
                }
              end
            )
          end

          app.delete "/api/sessions/:id" do
            Work::EndSession.call(fetch_record(Records::Session, params[:id], "session"), moment: moment)
            json({})
          end

          app.post "/api/sessions/end-others" do
            json(ended: Work::EndSession.all_but(env["nimble.session"], moment: moment))
          end
        end
      end
    end
  end
end
