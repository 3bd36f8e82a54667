# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/post: what goes out next, and holding it
      module Post
        # What these routes share.
        module Helpers
          def post_ahead = json(**Work::PostAhead.new(moment).call, trouble: settings.parts_state.words)
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/post") { post_ahead }

          app.get "/api/post/people" do
            json(PersonRows.page(Work::PostAhead.new(moment).people, moment: moment, cursor: params["cursor"]))
          end

          app.post "/api/post/hold" do
            Work::PostHold.hold(moment)
            post_ahead
          end

          app.post "/api/post/release" do
            Work::PostHold.release
            post_ahead
          end
        end
      end
    end
  end
end
