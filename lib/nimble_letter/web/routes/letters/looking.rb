# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/letters/:id/…: looking at a letter before it goes: as any person, over its checks, as a test
      module Looking
        # What these routes share.
        module Helpers
          # Our own page frames this one and measures it; nothing in it runs, and nothing but pictures and styles is loaded.
          def paper(html, pictures: "'self' data:")
            content_type :html
            headers "content-security-policy" =>
                      "default-src 'none'; style-src 'unsafe-inline'; img-src #{pictures}; base-uri 'none'; form-action 'none'; " \
                      "frame-ancestors " \
                      "'self'; " \
                      "sandbox allow-same-origin allow-popups allow-popups-to-escape-sandbox"
            html
          end

          def reader
            return fetch_record(Records::Person, params["person_id"], "person") if params["person_id"]

            letter_audience.people.order(:id).first ||
              raise(NotFound.new("There is nobody to show this letter for.", hint: "Add a person first."))
          end

          # The sequence it is looked at for, where it is in several.
          def looked_at_for = params["sequence_id"]&.to_i

          def letter_audience = Work::LetterAudience.new(letter, moment, sequence_id: looked_at_for)

          def look(person) = Work::LookAtLetter.new(letter, person, moment, sequence_id: looked_at_for)
        end

        def self.registered(app)
          app.helpers Helpers

          app.get("/api/letters/:id/preview") { json(look(reader).json) }

          app.get("/api/letters/:id/shown") { paper(look(reader).html) }

          app.get("/api/letters/:id/reader") do
            json(Work::NextReader.new(letter, moment, sequence_id: looked_at_for).call(params["want"], after: params["after"].to_i))
          end

          app.get "/api/letters/:id/checks" do
            checks = Work::LetterChecks.new(letter, moment, sequence_id: looked_at_for)
            json(
              advice: checks.call.map { |advice| advice.to_h.compact },
              set_aside:
                checks
                  .all
                  .reject(&:blocking)
                  .select { |advice| checks.set_aside.include?(advice.code) }
                  .map { |advice| advice.to_h.compact },
              reading_minutes: letter.document(:body).reading_minutes
            )
          end

          app.post "/api/letters/:id/audience" do
            audience, sentences = letter_audience, Work::Sentences.new(moment)
            json(
              words: audience.words,
              total: audience.total,
              without: input.fetch(:fields, []).to_h { |key| [key, audience.without(key)&.count] },
              seeing:
                input
                  .fetch(:conditions, [])
                  .map { |condition| {words: sentences.of(condition), people: audience.seeing(condition)&.count} }
            )
          end

          app.post "/api/letters/:id/audience/people" do
            audience, asked = letter_audience, input.except(:cursor)
            same = audience.condition_behind(asked)
            json(PersonRows.page(audience.behind(asked), moment: moment, cursor: input[:cursor], condition: same))
          end

          app.get "/api/letters/:id/figures/people" do
            figure = params["figure"]
            people, same = Work::LetterFigures.people_of(letter, figure), Work::LetterFigures.condition_of(letter, figure)
            json(PersonRows.page(people, moment: moment, cursor: params["cursor"], condition: same))
          end

          app.get "/api/letters/:id/tests" do
            tests = Records::TestLetter.where(letter_id: letter.id, account_id: account.id).order(Sequel.desc(:id)).limit(5).all
            json(tests: tests.map { |test| TestLetterJson.write(test) })
          end

          app.post "/api/letters/:id/tests" do
            tests =
              Work::TestLetters.ask(
                letter,
                fetch_record(Records::Person, input[:person_id], "person"),
                Records::Account.where(id: input[:to]).order(:id).all,
                moment: moment
              )
            json({tests: tests.map { |test| TestLetterJson.write(test) }}, 202)
          end
        end
      end
    end
  end
end
