# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/replies: what came back
      module Replies
        PAGE = 40
        # What each view of the screen shows.
        VIEWS = {"automatic" => {kind: %w[automatic bounce]}, "all" => {}}.freeze

        # What these routes share.
        module Helpers
          def replies_shown(show)
            return Records::Incoming.where(VIEWS[show]) if VIEWS.key?(show)

            Records::Incoming.where(kind: %w[reply unmatched unsubscribe], sort: show)
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.get "/api/replies" do
            rows, following =
              Records::Cursor.page(
                replies_shown(params["show"] || "new").newest_first,
                time: :received_at,
                cursor: params["cursor"],
                limit: PAGE
              )
            counts = %w[new interested later no done automatic].to_h { |show| [show, replies_shown(show).count] }
            json(replies: ReplyJson.rows(rows), counts: counts, next_cursor: following)
          end

          app.patch "/api/replies/:id" do
            reply = fetch_record(Records::Incoming, params[:id], "reply")
            json(ReplyJson.rows([reply.change!({sort: input[:sort]}, version: input[:version], now: moment.now)]).first)
          end

          app.post "/api/replies/:id/conversion" do
            reply = fetch_record(Records::Incoming, params[:id], "reply")
            Work::Conversion.call(reply, label: input[:label].strip, value_pence: input[:value_pence], moment: moment)
            json(ReplyJson.rows([reply.refresh]).first, 201)
          end
        end
      end
    end
  end
end
