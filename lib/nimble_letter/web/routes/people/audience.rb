# frozen_string_literal: true

module NimbleLetter
  module Web
    module Routes
      # /api/audience: the sieve and the people behind its numbers
      module Audience
        def self.registered(app)
          app.post "/api/audience/sieve" do
            audience = moment.audience(input[:audience])
            json(
              moment
                .sieving(audience, sequence_id: input[:sequence_id])
                .account
                .merge(sentence: AudienceWords.sentence(audience.tree), as_of: moment.now)
            )
          end

          app.post "/api/audience/people" do
            audience = moment.audience(input[:audience])
            sieving = moment.sieving(audience, sequence_id: input[:sequence_id])
            people = sieving.people_of(input[:part])
            same = sieving.condition_of(input[:part], audience.condition)
            json(PersonRows.page(people, moment: moment, cursor: input[:cursor], condition: same))
          end
        end
      end
    end
  end
end
