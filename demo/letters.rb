# frozen_string_literal: true

module NimbleLetter
  module Demo
    # The demo firm's letters, in its voice.
    module Letters
      TEXTS = {
        "The table nobody asks for twice" => {
          category: "First word",
          subject: "The table nobody asks for twice",
          preview: "Every dining room has one, and it is rarely the draught",
          body: <<~TEXT
            Dear {{first name|there}},

            Every dining room has a table that nobody asks for twice. It is rarely the draught. It is the one where you hear the
            next party better than your own.

            We quiet rooms like that of {{company}} without changing how they look. I would gladly tell you what we would try first.

            Would a listening visit suit you? It takes an hour while you are closed.
          TEXT
        },
        "Before and after at table nine" => {
          category: "Follow-up",
          subject: "Two recordings from table nine",
          preview: "The same Friday, before and after",
          body: <<~TEXT
            Dear {{first name|there}},

            When we measured a room much like {{company}}, guests at the back were lifting their voices by 9 dB before eight
            o’clock. Here is that same Friday, recorded before and after we hung the panels.

            [Listen to both, 40 seconds](https://ternandfallow.example/listen/table-nine)

            Would a listening visit in {{city|your town}} suit you in the coming weeks?
          TEXT
        },
        "Two dates that would suit" => {
          category: "Follow-up",
          subject: "Two dates, if you like",
          preview: "And then I leave you in peace",
          body: <<~TEXT
            Dear {{first name|there}},

            I have two mornings free near {{city|you}} this month. If one of them suits, answer with a word and I will bring the meter.

            If the noise is not what troubles you, that is good to know as well, and I will not write again about it.
          TEXT
        },
        "Winter letter" => {
          category: "News",
          subject: "What a quiet room is worth in January",
          preview: "Three small things that cost nothing",
          body: <<~TEXT
            Dear {{first name|there}},

            January is when rooms sound their worst: fewer coats, fewer people, hard floors. Three small things help at once and
            cost nothing.

            [Read the three things](https://ternandfallow.example/winter)

            With warm wishes for the new year at {{company|your place}}.
          TEXT
        },
        "Shall we listen together?" => {
          category: "Follow-up",
          subject: "Shall we listen together?",
          preview: "An hour, a meter and two chairs",
          body: <<~TEXT
            Dear {{first name|there}},

            Last time I wrote about small things. If you would rather have numbers, we come with a meter and two chairs, listen
            for an hour, and leave you a page with what we heard.

            [See such a page](https://ternandfallow.example/page)
          TEXT
        },
        "A year of quiet" => {
          category: "Yearly letter",
          subject: "A year of quiet at {{company|your place}}",
          preview: "May we come by with the meter?",
          body: <<~TEXT
            Dear {{first name|there}},

            In ten days it is the day on which we fitted your room, on {{room fitted on|a day in the past years}}. Felt settles,
            furniture moves, and rooms change how they sound.

            Once a year we come by with the meter, free of charge, for half an hour. Which morning suits you?
          TEXT
        },
        "The price list, as you asked" => {
          category: "Answer",
          subject: "The price list, as you asked",
          preview: "Four rooms, and what each of them cost",
          body: <<~TEXT
            Dear {{first name|there}},

            You asked what it costs. It depends on the room, so here are four real ones, each with its size and its figure.

            [See the four rooms](https://ternandfallow.example/prices)

            If one of them is like yours, tell me which.
          TEXT
        },
        "Which of the four is yours?" => {
          category: "Follow-up",
          subject: "Which of the four is yours?",
          preview: "One word is enough",
          body: <<~TEXT
            Dear {{first name|there}},

            Of the four rooms I sent you, which is most like yours? One word is enough, and I will tell you what would be otherwise.
          TEXT
        },
        "Good to meet you at the trade evening" => {
          category: "After a meeting",
          subject: "Good to meet you, {{first name|and thank you}}",
          preview: "The sample you held is on its way",
          body: <<~TEXT
            Dear {{first name|there}},

            It was good to meet you at the trade evening. The felt you held is made in Ripon from old fishing nets;
            [here is how](https://ternandfallow.example/felt).

            Shall I send a piece to {{company|you}}?
          TEXT
        },
        "For architects: the quiet detail" => {
          category: "Partners",
          subject: "A detail for your next ceiling",
          preview: "Drawn, measured, free to copy",
          body: <<~TEXT
            Dear {{last name}},

            We have drawn the ceiling edge that people ask us about most, with measured figures. It is yours to copy.

            [Take the drawing](https://ternandfallow.example/detail)
          TEXT
        },
        "Classrooms before summer" => {
          category: "First word",
          subject: "A quieter {{company}} by September",
          preview: "Fitted in the holidays, heard in the first lesson",
          body: <<~TEXT
            Dear {{first name}},

            A class of thirty in a hard room loses one word in four at the back row. We fit classrooms in the summer weeks, so
            that {{company}} sounds different on the first day of term.

            [See what one school noticed](https://ternandfallow.example/schools)

            May I come to {{city}} and listen to one lesson?
          TEXT
        }
      }.freeze

      # @return [Hash{String=>Records::Letter}] by name
      def self.make(author, now:)
        moment = Work::Moment.new(now: now, account: author)
        reader = Work::LetterIn.new(moment)
        TEXTS.to_h do |name, parts|
          head = parts.slice(:subject, :preview).map { |key, words| "#{key}: #{JSON.generate(words)}" }
          text = "---
#{head.join("
")}
---

#{parts[:body]}"
          [name, Work::WriteLetter.new(moment).make(reader.markdown(text, name).merge(category: parts[:category]))]
        end
      end
    end
  end
end
