# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/post: what goes out next, and holding it
      module Post
        def self.registered(app)
          app.get("/api/post") { json(Work::PostAhead.new(moment).call) }

          app.post "/api/post/hold" do
            Work::PostHold.hold(moment)
            json(Work::PostAhead.new(moment).call)
          end

          app.post "/api/post/release" do
            Work::PostHold.release
            json(Work::PostAhead.new(moment).call)
          end
        end
      end
    end
  end
end
