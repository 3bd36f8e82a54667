# frozen_string_literal: true

RSpec.describe Core::Letters::Merge do
  let(:ana) { {"person.first_name" => "Ana", "person.city" => "York"} }

  it "puts values in, falls back, and reports every gap once" do
    letter = merged("Dear {{first name|there}}, {{city}} {{city}}", {"person.first_name" => "Ana"})

    expect(Core::Letters::TextWriter.write(letter)).to eq("Dear Ana,  \n")
    expect(letter.gaps).to eq(["person.city"])
    expect(merged("x", {}, subject: "For {{first name}}").gaps).to eq(["person.first_name"])
  end

  it "takes a value that was written for this letter only" do
    expect(text_of("{{city}}", {}, filled: {"person.city" => "Hull"})).to eq("Hull\n")
  end

  it "keeps a name with line breaks, hidden marks or a picture sign on one line of the subject" do
    subject_of = ->(name) do
      Core::Letters::TextWriter.line(merged("x", {"person.first_name" => name}, subject: "For {{first name}}").subject)
    end

    expect(subject_of.call("Ana\r\nBcc: all@firm.example")).to eq("For Ana Bcc: all@firm.example")
    expect(subject_of.call("\u202eAna\u2066")).to eq("For Ana")
    expect(subject_of.call("Ana 🪶")).to eq("For Ana 🪶")
    expect(subject_of.call(" \u2028 ")).to eq("For")
  end

  describe "a field in the address of a link" do
    def hrefs(address, facts)
      merged(parsed(para(link("here", address))), facts).then { |letter| [letter.blocks.first.runs.map(&:href), letter.gaps] }
    end

    it "is written as part of an address, falls back, or is a gap" do
      address = "https://a.example/?n={{first name|you & me}}&c={{city}}"
      expect(hrefs(address, {"person.first_name" => "Ana/Ö", "person.city" => "New York"})).to eq(
        [["https://a.example/?n=Ana%2F%C3%96&c=New%20York"], []]
      )
      expect(hrefs(address, {})).to eq([["https://a.example/?n=you%20%26%20me&c="], ["person.city"]])
      expect(parsed(para(link("here", address))).gap_places).to eq([["person.city", []]])
    end

    it "may be the whole of it, and leads nowhere that could run" do
      expect(hrefs("{{company website}}", {"company.website" => "https://x.example/a"})).to eq([["https://x.example/a"], []])
      expect(hrefs("{{job title}}", {"person.job_title" => "javascript:alert(1)"})).to eq([[nil], ["person.job_title"]])
      expect { parsed(para(link("here", "javascript:{{city}}"))) }.to raise_error(Invalid, /begins with https/)
    end

    it "is refused as it is typed when nobody knows it, with the nearest" do
      expect { parsed(para(link("here", "https://a.example/{{frist name}}"))) }.to raise_error(Invalid) { |error|
        expect([error.code, error.hint]).to eq([:unknown_field, "Did you mean “first name”?"])
      }
    end
  end

  describe "a line of one's own" do
    line = ->(words, after = nil) { Core::Letters::Merge::Line.new(words, after) }

    it "stands after the first words, or after the block it was written for" do
      expect(text_of("Dear {{first name}},\n\nbody", ana, line: line.call("Good to see you.\nTruly."))).to eq(
        "Dear Ana,\n\nGood to see you.\nTruly.\n\nbody\n"
      )
      expect(text_of("Dear {{first name}},\n\nbody {{city}}\n\nend", ana, line: line.call("Here.", "body [city]"))).to eq(
        "Dear Ana,\n\nbody York\n\nHere.\n\nend\n"
      )
    end

    it "survives a change of the letter, and says so when its place is gone" do
      letter = merged("Dear you,\n\nanother body", ana, line: line.call("Here.", "body"))

      expect(letter.line_lost).to be(true)
      expect(Core::Letters::TextWriter.write(letter)).to include("Here.")
      expect(merged("Dear you,\n\nbody", ana, line: line.call("Here.", "body")).line_lost).to be(false)
    end
  end

  describe "passages for some people" do
    condition = {"field" => "person.city", "is" => "one_of", "value" => ["York"]}
    let(:body) do
      parsed(shown_if(condition, [para("You are near, in ", chip("person.city"))], [para("You are far from ", chip("person.country"))]))
    end

    it "shows one side, and only its gaps count" do
      near = merged(body, ana, shown: ->(asked) { asked == condition })

      expect(Core::Letters::TextWriter.write(near)).to eq("You are near, in York\n")
      expect([near.gaps, near.sides]).to eq([[], {condition => true}])
      expect(merged(body, ana).gaps).to eq(["person.country"])
    end
  end

  describe "passages kept for reuse" do
    let(:passages) do
      {
        1 => {
          "" => doc(para("Until ", chip("today.date", nil, "weekday"))),
          "de" => doc(para("Bis ", chip("today.date", nil, "weekday")))
        }
      }
    end
    let(:body) { parsed({"type" => "passage", "attrs" => {"passage_id" => 1}}) }

    it "speak the reader's language, with its dates" do
      today = {"today.date" => Date.new(2026, 5, 12)}

      expect(text_of(body, today, passages: passages)).to eq("Until Tuesday 12 May\n")
      expect(text_of(body, today.merge("person.language" => "de"), passages: passages)).to eq("Bis Dienstag, 12. Mai\n")
      expect(text_of(body, today.merge("person.language" => "fr"), passages: passages)).to eq("Until Tuesday 12 May\n")
    end

    it "end even when one leads back to itself" do
      circle = {1 => {"" => doc(para("x"), {"type" => "passage", "attrs" => {"passage_id" => 1}})}}

      expect(text_of(body, {}, passages: circle).scan("x").size).to eq(Core::Letters::Merge::MAX_PASSAGES_WITHIN)
    end

    it "say nothing when they are gone" do
      expect(text_of(body)).to eq("\n")
    end
  end

  describe "addresses of buttons and pictures" do
    def href(*nodes, facts: {}) =
      merged(parsed({"type" => "button", "attrs" => {"href" => nodes}, "content" => words("Go")}), facts).then do |letter|
        [letter.blocks.first.attrs[:href], letter.gaps]
      end

    it "write a value as part of an address" do
      expect(href(*words("https://a.example/?c="), chip("company.name"), facts: {"company.name" => "Pike & Parsley/1"})).to eq(
        ["https://a.example/?c=Pike%20%26%20Parsley%2F1", []]
      )
    end

    it "may be a value as a whole, but never one that runs something" do
      expect(href(chip("company.website"), facts: {"company.website" => "pike.example"})).to eq(["https://pike.example", []])
      expect(href(chip("company.website"), facts: {"company.website" => "javascript:alert(1)"})).to eq([nil, ["company.website"]])
      expect(href(chip("company.website"))).to eq([nil, ["company.website"]])
    end
  end
end

RSpec.describe Core::Letters::Forms do
  def say(key, value, form = nil, language = "en") =
    described_class.say(Core::Fields::Standard.catalogue[key], value, form, Core::Letters::Locale.for(language))

  it "says words in capitals, as names, and whose they are" do
    expect(%w[upper lower title first_up possessive].map { |form| say("person.city", "upper poppleton", form) })
      .to eq(["UPPER POPPLETON", "upper poppleton", "Upper Poppleton", "Upper poppleton", "upper poppleton’s"])
    expect(
      [
        say("person.first_name", "Lois", "possessive"),
        say("person.first_name", "Lois", "possessive", "de"),
        say("person.first_name", "Anna", "possessive", "fr")
      ]
    ).to eq(%w[Lois’ Lois’ d’Anna])
  end

  it "says days the way each language does" do
    day = Date.new(2026, 5, 12)

    expect(%w[en de fr nl es it cy].map { |language| say("today.date", day, "weekday", language) }).to eq(
      [
        "Tuesday 12 May",
        "Dienstag, 12. Mai",
        "mardi 12 mai",
        "dinsdag 12 mei",
        "martes, 12 de mayo",
        "martedì 12 maggio",
        "Dydd Mawrth 12 Mai"
      ]
    )
    expect(
      [
        say("today.weekday", day),
        say("today.month", day),
        say("person.fitted_on", day),
        say("person.fitted_on", day, "year"),
        say("today.date", day, "short", "de")
      ]
    ).to eq(["Tuesday", "May", "12 May 2026", "2026", "12.05.2026"])
  end

  it "says money and numbers with the right points, commas and signs" do
    expect(
      [
        say("deal.value", 125_000),
        say("deal.value", 125_050),
        say("deal.value", 125_050, "whole"),
        say("deal.value", 125_000, "exact", "de"),
        say("deal.value", 125_000, nil, "fr")
      ]
    ).to eq(["£1,250", "£1,250.50", "£1,251", "1.250,00 £", "1\u202f250 £"])
    expect(
      [say("lookup.temperature", 12.6), say("lookup.temperature", 12.6, "rounded"), say("lookup.temperature", 1_234_567, "grouped", "de")]
    ).to eq(%w[12.6 13 1.234.567])
  end

  it "has words for every form a field offers" do
    offered = Core::Fields::Standard.catalogue.flat_map { |field| described_class.for(field) }.uniq

    expect(offered - described_class::LABELS.keys).to eq([])
  end

  it "says nothing for nothing" do
    expect([say("person.city", nil), say("person.city", " \n "), say("person.city", "\xff")]).to eq([nil, nil, nil])
  end
end
