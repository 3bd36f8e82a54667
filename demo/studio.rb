# frozen_string_literal: true

module NimbleLetter
  module Demo
    # Letters the firm is at work on in May: a designed one with pictures, one that speaks to each reader differently, one
    # about a deal; passages and signatures; and a draft that compares two subjects.
    class Studio
      def initialize(moment)
        @moment = moment
        @writing = Work::WriteLetter.new(moment)
        @typed = Core::Letters::TypedFields.new(moment.catalogue)
      end

      # @return [Hash{String=>Records::Letter}] by name
      def fill
        @pictures = Pictures.make(@moment)
        @passages = passages
        sign
        {
          "Spring from the workshop" => spring,
          "The yearly check" => yearly_check,
          "Your proposal" => proposal
        }.transform_values { |content| @writing.make(content) }
      end

      private

      def passages
        hour = {
          "" =>
            doc(
              para(
                "The measuring hour costs nothing. We come while you are closed, with a meter and two chairs, and leave you a page with " \
                "what we heard."
              )
            ),
          "de" =>
            doc(
              para(
                "Die Messstunde kostet nichts. Wir kommen, wenn geschlossen ist, mit einem Messgerät und zwei Stühlen, und lassen Ihnen " \
                "ein Blatt da mit dem, was wir gehört haben."
              )
            ),
          "fr" =>
            doc(
              para(
                "L’heure d’écoute est offerte. Nous venons quand vous êtes fermés, avec un appareil et deux chaises, et nous vous " \
                "laissons une page de ce que nous avons entendu."
              )
            )
        }
        away = {"" => doc(para("From 3 to 14 August we fit school rooms only; everybody else hears from us by return in the week after."))}
        keeping = Work::KeepPassage.new(@moment)
        {hour: keeping.make(name: "The measuring hour", documents: hour), away: keeping.make(name: "Away in August", documents: away)}
      end

      def sign
        Records::Account.where(email: "idris@ternandfallow.example").all.each do |idris|
          idris.update(
            signature:
              doc(
                para("Idris Vale"),
                para(
                  "Listening visits, Tern & Fallow Acoustics",
                  br,
                  "01632 960 118 · ",
                  link("where I am this week", "https://ternandfallow.example/idris")
                )
              )
          )
        end
      end

      def spring
        {
          name: "Spring from the workshop",
          category: "News",
          manner: "designed",
          subject: line("What we heard this spring, {{first name|and what you might}}"),
          preview: line("One room, two recordings, and a chair for you in June"),
          body:
            doc(
              heading("What we heard this spring", 1),
              para("Dear {{first name|neighbour}},"),
              para("in March we finished a dining room of forty seats. Here it is, with its panels hung and its tables back."),
              picture(:room, "A dining room with a row of green panels on the wall", "https://ternandfallow.example/rooms/forty"),
              para(
                "The owner says that people stay for another coffee. The meter says 9 dB less at eight o’clock. Both are good to hear."
              ),
              button("Listen to before and after", "https://ternandfallow.example/listen/forty"),
              columns(
                [
                  heading("New felt", 3),
                  para("Made in Ripon from old fishing nets. It takes colour well, and it is mended rather than thrown away."),
                  picture(:felt, "Felt in bands of green and sand")
                ],
                [
                  heading("An evening to listen", 3),
                  para("On the last Thursday in June we open a finished room. Eight chairs, soup, and over by nine."),
                  para(link("Keep me a chair", "https://ternandfallow.example/evening"))
                ]
              ),
              shown(
                {"field" => "person.standing", "is" => "one_of", "value" => ["client"]},
                [
                  para(
                    "Your room was fitted in {{room fitted on|the past years}}. If a table there has begun to sound odd, tell us which; " \
                    "it is usually a small thing."
                  )
                ],
                [passage(:hour)]
              ),
              quote("I had forgotten that the kitchen has a bell."),
              {"type" => "signature"},
              {"type" => "divider"},
              {
                "type" => "links",
                "content" => [
                  link("Rooms", "https://ternandfallow.example/rooms"),
                  text(" · "),
                  link("Felt", "https://ternandfallow.example/felt"),
                  text(" · "),
                  link("Come by", "https://ternandfallow.example/visit")
                ]
              },
              {"type" => "footer"}
            )
        }
      end

      def yearly_check
        {
          name: "The yearly check",
          category: "Yearly check",
          manner: "plain",
          subject: line("A year of quiet at {{company|your place}}"),
          preview: line("May we come by with the meter?"),
          body:
            doc(
              para("Dear {{first name|there}},"),
              shown(
                {"field" => "lookup.rain", "is" => "yes"},
                [para("it rains in {{city|your town}} today, as I write, and rain on a hard roof is a good test of a room.")],
                [para("a year of quiet has passed, and I hope it was one.")]
              ),
              para(
                "Felt settles, furniture moves, and rooms change how they sound. Once a year we come by with the meter, for half an " \
                "hour and free of charge. You get a page with what we heard, beside the page from last time."
              ),
              passage(:away),
              para("Which morning suits you?")
            )
        }
      end

      def proposal
        {
          name: "Your proposal",
          category: "Proposal",
          manner: "plain",
          about: "deal",
          subject: line("Our proposal: {{deal}}"),
          preview: line("Two pages, one figure, and a date"),
          body:
            doc(
              para("Dear {{first name|there}},"),
              para(
                "the proposal for ",
                chip("deal.name"),
                " is with you. It is two pages: what we would hang, where, and what you would hear of it. The figure, ",
                chip("deal.value", nil, "whole"),
                ", holds for six weeks."
              ),
              para(
                "If you say yes by ",
                chip("deal.expected_on", "the end of the month", "day_month"),
                ", we can fit it before the season begins. ",
                link("The two pages", "https://ternandfallow.example/proposal")
              )
            )
        }
      end

      def doc(*blocks) = {"type" => "doc", "content" => blocks}

      def line(words) = doc(para(words))

      def para(*parts) = {"type" => "paragraph", "content" => parts.flat_map { |part| part.is_a?(String) ? typed(part) : [part] }}

      def typed(words) = @typed.split(words).map { |piece| piece.is_a?(String) ? text(piece) : piece }

      def text(words) = {"type" => "text", "text" => words}

      def br = {"type" => "hardBreak"}

      def link(words, href) = text(words).merge("marks" => [{"type" => "link", "attrs" => {"href" => href}}])

      def chip(field, fallback = nil, form = nil) =
        {"type" => "mergeField", "attrs" => {"field" => field, "fallback" => fallback, "form" => form}}

      def heading(words, level) = {"type" => "heading", "attrs" => {"level" => level}, "content" => [text(words)]}

      def quote(words) = {"type" => "quote", "content" => [para(words)]}

      def button(words, href) = {"type" => "button", "attrs" => {"href" => [text(href)]}, "content" => [text(words)]}

      def picture(which, alt, href = nil) =
        {
          "type" => "picture",
          "attrs" => {
            "picture_id" => @pictures[which].id,
            "alt" => [text(alt)],
            "href" => href ? [text(href)] : [],
            "width" => 100
          }
        }

      def columns(one, other) = {"type" => "columns", "content" => [one, other].map { |blocks| {"type" => "column", "content" => blocks} }}

      def passage(which) = {"type" => "passage", "attrs" => {"passage_id" => @passages[which].id}}

      def shown(condition, yes, no) =
        {
          "type" => "conditional",
          "attrs" => {
            "condition" => condition
          },
          "content" => [yes, no].map { |blocks| {"type" => "side", "content" => blocks} }
        }
    end
  end
end
