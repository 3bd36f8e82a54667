# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/pictures: the library of pictures
      module Pictures
        # What these routes share.
        module Helpers
          def picture_json(picture, uses = Work::WhereUsed.new.picture(picture)) =
            {**picture.values.slice(:id, :name, :width, :height, :bytes, :created_at), url: picture.path, used_in: uses}
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/pictures") do
            json(
              pictures:
                Work::WhereUsed.new.then do |used|
                  Records::Picture.without_data.order(Sequel.desc(:id)).all.map { |picture| picture_json(picture, used.picture(picture)) }
                end
            )
          end

          # The file itself is the body.
          app.post("/api/pictures") { json(picture_json(Work::TakePicture.new(moment).call(request.body, name: params["name"])), 201) }

          app.delete "/api/pictures/:id" do
            picture = fetch_record(Records::Picture, params[:id], "picture")
            Work::WhereUsed.refuse_if_used!("picture", picture.name, Work::WhereUsed.new.picture(picture))
            picture.destroy
            json(removed: true)
          end
        end
      end
    end
  end
end
