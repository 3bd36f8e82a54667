# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/tags: rename, merge, take away
      module Tags
        def self.registered(app)
          app.get "/api/tags" do
            counts =
              Records.db[:people_tags]
                .join(:people, id: :person_id)
                .where(Sequel[:people][:deleted_at] => nil)
                .group_and_count(:tag_id)
                .as_hash(:tag_id, :count)
            used = Work::WhereUsed.new(account)
            json(
              tags:
                Records::Tag
                  .order(:name_fold)
                  .all
                  .map { |tag| {id: tag.id, name: tag.name, people: counts.fetch(tag.id, 0), used_in: used.tag(tag)} }
            )
          end

          app.patch "/api/tags/:id" do
            json(Work::RenameTag.call(fetch_record(Records::Tag, params[:id], "tag"), input[:name], merge: input[:merge] == true))
          end
        end
      end
    end
  end
end
