# frozen_string_literal: true

module NimbleLetter
  module Web
    # Why one person is in an audience, or is not, and what the sieve says of them.
    module WhyJson
      # @param person [Records::Person]
      # @param audience [Records::Audience]
      def self.write(person, audience, moment)
        names = AudienceWords.names
        record = Records::WholeRecords.read([person]).fetch(person.id)
        say = ->(field, value) do
          Core::Fields::Saying.say(field, value, names: names).then { |said| said.is_a?(Date) ? said.strftime("%-d %b %Y") : said }
        end
        explanation =
          Core::Conditions::Explanation.new(memory: moment.memory, sentence: Core::Conditions::Sentence.new(names: names), say: say)
        matches = audience.people.where(Sequel[:people][:id] => person.id).any?
        {
          person: person.name,
          matches: matches,
          by_hand: (audience.json["people"] || []).include?(person.id),
          left_out: (audience.json["without"] || []).include?(person.id),
          binned: !person.deleted_at.nil?,
          parts: audience.tree ? [part(explanation.of(audience.tree, record))] : [],
          without: audience.without.map { |tree| part(explanation.of(tree, record)) },
          reason: matches ? reason(person, audience, moment) : nil
        }
      end

      def self.part(part) =
        {words: part.words, holds: part.holds, actual: part.actual, joined_by: part.joined_by, parts: part.parts.map { |one| part(one) }}
      private_class_method :part

      # @return [String, nil] words of the sieve's reason; nil when they would get it
      def self.reason(person, audience, moment)
        sieving = moment.sieving(audience)
        sieving.reasons.find { |reason| sieving.people_of(reason.key).where(Sequel[:people][:id] => person.id).any? }&.words
      end
      private_class_method :reason
    end
  end
end
