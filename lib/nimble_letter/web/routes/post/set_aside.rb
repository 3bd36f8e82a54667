# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/set-aside: what could not be worked on, tried again or left
      module SetAside
        PAGE = 100

        # What these routes share.
        module Helpers
          # One at a time, in an order that two colleagues share.
          # @param move [Symbol] :again or :leave
          def take_up(move)
            taken =
              Records::SetAside.where(id: input.fetch(:ids)).order(:id).all.count do |thing|
                Work::TakeUp.new(thing, moment).public_send(move)
              rescue Sequel::NoExistingObject
                false # a colleague was quicker
              end
            json(taken: taken)
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.get "/api/set-aside" do
            things, marker = Records::Cursor.page(Records::SetAside.newest_first, time: :last_at, cursor: params["cursor"], limit: PAGE)
            json(things: SetAsideJson.rows(things), total: Records::SetAside.count, next_cursor: marker)
          end

          app.post("/api/set-aside/again") { take_up(:again) }

          app.post("/api/set-aside/leave") { take_up(:leave) }

          app.get "/api/set-aside/:id" do
            json(SetAsideJson.whole(fetch_record(Records::SetAside, params[:id], "thing")))
          end
        end
      end
    end
  end
end
