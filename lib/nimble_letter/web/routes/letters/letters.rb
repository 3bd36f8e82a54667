# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/letters: the library, writing, files in and out
      module Letters
        # What these routes share.
        module Helpers
          def letter = @letter ||= fetch_record(Records::Letter, params[:id], "letter")

          def writing = Work::WriteLetter.new(moment)

          def saved(letter, status = 200)
            @letter = letter
            json(LetterJson.write(letter), status)
          end
        end

        def self.registered(app)
          app.helpers Helpers
          library(app)
          one(app)
          files(app)
        end

        def self.library(app)
          app.get "/api/letters" do
            found = Records::Letter.order(Sequel.desc(:updated_at), Sequel.desc(:id))
            found = (params["archived"].to_s == "true") ? found.exclude(archived_at: nil) : found.kept
            Core::Fold
              .call(params["words"].to_s)
              .to_s
              .split
              .each { |word| found = found.where(Sequel.ilike(:words, "%#{found.escape_like(word)}%")) }
            json(letters: LetterJson.rows(found.all, account))
          end

          app.get("/api/letters/figures") { json(letters: LetterJson.figures) }

          app.post("/api/letters") do
            saved(input[:starter] ? Work::StarterLetters.begin_with(input[:starter], moment) : writing.make(input), 201)
          end

          app.get("/api/letters/starters") do
            json(starters: Work::StarterLetters.all.map { |one| one.slice(:key, :name, :situation, :subject, :words) })
          end

          app.post("/api/letters/file") { saved(Work::LetterIn.new(moment).call(request.body, name: params["name"]), 201) }

          app.post "/api/letters/read" do
            json(
              document:
                Core::Letters::Document.parse!(
                  Files::LetterHtml.new(moment.catalogue).read(input[:html]),
                  catalogue: moment.catalogue
                ).to_h
            )
          end
        end
        private_class_method :library

        def self.one(app)
          app.get("/api/letters/:id") { saved(letter) }

          app.patch("/api/letters/:id") { saved(writing.change(letter, input)) }

          app.delete "/api/letters/:id" do
            writing.discard(letter)
            json({})
          end

          app.post("/api/letters/:id/copy") { saved(writing.copy(letter, name: input[:name]), 201) }

          app.put "/api/letters/:id/favourite" do
            mine = Records.db[:letter_favourites].where(account_id: account.id, letter_id: letter.id)
            mine.delete
            Records.db[:letter_favourites].insert(account_id: account.id, letter_id: letter.id) if input[:favourite]
            json(favourite: input[:favourite])
          end

          app.post("/api/letters/:id/presence") do
            presence = Work::LetterPresence.new(letter, account)
            json(others: input[:leaves] ? presence.leaves(input[:tab]) : presence.here(input[:tab]), version: letter.version)
          end
        end
        private_class_method :one

        def self.files(app)
          app.get "/api/letters/:id/file" do
            content = Work::LetterOut.new(letter, moment, base_url: settings.public_url).file(params["format"])
            content_type Work::LetterOut::FORMATS.fetch(params["format"])
            attachment("#{letter.name.gsub(/[^\p{L}\p{N} .,-]/, "_")}.#{params["format"]}")
            content
          end

          app.get "/api/letters/:id/left-out" do
            json(left_out: Work::LetterOut.new(letter, moment, base_url: settings.public_url).left_out(params["format"]))
          end

          app.post("/api/letters/:id/attachments") do
            Work::TakeAttachment.new(letter, moment).call(request.body, name: params["name"])
            json({attachments: LetterJson.attachments(letter)}, 201)
          end

          app.delete "/api/letters/:id/attachments/:file_id" do
            Records::Attachment.kept.first(letter_id: letter.id, id: params[:file_id].to_i)&.take_out(moment.now)
            json(attachments: LetterJson.attachments(letter))
          end
        end
        private_class_method :files
      end
    end
  end
end
