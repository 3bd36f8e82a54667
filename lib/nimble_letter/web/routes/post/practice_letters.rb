# frozen_string_literal: true

require "mail"

module NimbleLetter
  module Web
    module Routes
      # /api/practice/letters: the practice post office's own small mail viewer
      module PracticeLetters
        PAGE = 60

        # What these routes share.
        module Helpers
          # Codes that prove a mailbox are for those who may prove it, here as in a real post office.
          def readable
            mine = Work::ProveMailbox.provable_by(account).select(:address)
            letters = Records.db[:practice_letters]
            letters.where(Sequel.|(Sequel.~(Sequel.like(:message_id, "#{Records::Notice::MARK}%")), {recipient: mine}))
          end

          def practice_letter
            readable.first(id: Integer(params[:id], exception: false)) ||
              raise(NotFound.new("This letter is not there."))
          end
        end

        def self.registered(app)
          app.helpers Helpers

          app.get "/api/practice/letters" do
            found = readable.order(Sequel.desc(:id)).limit(PAGE + 1)
            found = found.where(Sequel[:id] < params["before"].to_i) if params["before"]
            found = found.where(Sequel.ilike(:recipient, "%#{found.escape_like(params["words"])}%")) if params["words"].to_s != ""
            rows = found.all
            json(
              letters: rows.first(PAGE).map { |row| PracticeLetterJson.row(row) },
              next_before: (rows[PAGE - 1][:id] if rows.size > PAGE)
            )
          end

          app.get("/api/practice/letters/:id") { json(PracticeLetterJson.write(practice_letter)) }

          # Pictures are fetched from our own library only, so that looking here is not an "opened".
          app.get("/api/practice/letters/:id/shown") do
            paper(PracticeLetterJson.html(practice_letter, settings.public_url), pictures: "#{request.base_url}/p/")
          end
        end
      end
    end
  end
end
