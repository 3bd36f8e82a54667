# frozen_string_literal: true

RSpec.describe "facts from outside" do
  let(:people) { [make_person(city: "York"), make_person(city: "Hull"), make_person(city: "York"), make_person(city: nil)] }
  let(:letter) do
    Work::WriteLetter.new(moment).make(
      name: "W",
      subject: doc(para("S")),
      body:
        doc(
          para("There is ", chip("lookup.weather", "weather"), " in your city."),
          shown_if(
            {
              "all" => [{"field" => "lookup.rain", "is" => "yes"}, {"field" => "person.city", "is" => "one_of", "value" => ["York"]}]
            },
            [para("Rain in York.")],
            [para("Dry, or elsewhere.")]
          )
        )
    )
  end

  # Answers as told, and counts.
  let(:service) do
    Class
      .new do
        attr_reader :asked

        def initialize(answers) = (@answers, @asked = answers, [])

        def ask(_service, value, day)
          @asked << [value, day]
          @answers.fetch(value)
        end
      end
      .new(
        "York" => Lookups::Answer.new(facts: {"words" => "steady rain", "rain" => true, "celsius" => 9}),
        "Hull" => Lookups::Answer.failed("the weather service did not answer in time")
      )
  end

  def texts(at = moment_with(service))
    merging = Work::Merging.new(letter, people, at)
    [people.map { |person| Core::Letters::TextWriter.write(merging.call(person, nil)).strip }, merging.unanswered]
  end

  def moment_with(adapter) = Work::Moment.new(now: now, firm: firm, lookups: adapter)

  it "are merged, asked by passages, and have a stated result when nobody answers" do
    words, unanswered = texts

    expect(words).to eq(
      [
        "There is steady rain in your city.\n\nRain in York.",
        "There is weather in your city.\n\nDry, or elsewhere.",
        "There is steady rain in your city.\n\nRain in York.",
        "There is weather in your city.\n\nDry, or elsewhere."
      ]
    )
    expect(unanswered).to eq(people[1].id => "the weather service did not answer in time")
  end

  it "are asked once for each city and day, and a service that failed is left alone for a while" do
    2.times { texts }

    expect(service.asked).to contain_exactly(["York", Date.new(2026, 5, 12)], ["Hull", Date.new(2026, 5, 12)])
  end

  it "are not asked by a letter that does not name them" do
    plain = make_letter(body: "Hello")
    Work::Merging.new(plain, people, moment_with(service)).call(people.first, nil)

    expect(service.asked).to eq([])
  end

  it "say so where no service is connected" do
    expect(texts(moment).last.values.uniq).to eq(["the weather service is not connected"])
  end
end
