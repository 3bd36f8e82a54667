# frozen_string_literal: true

RSpec.describe Core::Letters::Checks do
  let(:good) do
    "Dear {{first name|there}},\n\nhow is the room at the back? We would gladly come by one morning with the meter and listen to it for " \
      "an hour, while you are still closed."
  end

  def given(subject: "A word about your room", preview: "One hour, while you are closed", body: good, **rest)
    document = ->(one) { one.is_a?(String) ? Core::Letters::Document.from_text(one) : one }
    Core::Letters::Checks::Given.new(
      subject: document.call(subject),
      preview: document.call(preview),
      body: document.call(body),
      passages: [],
      designed: false,
      for_deal: false,
      html_bytes: 4000,
      gaps: {},
      postal_address: "4 Felt Yard",
      contrasts: [],
      catalogue: Core::Fields::Standard.catalogue,
      attachment_bytes: 0,
      **rest
    )
  end

  def codes(**rest) = described_class.call(given(**rest)).map(&:code)

  it "has nothing to say of a good letter" do
    expect(codes).to eq([])
  end

  it "reads the subject as an inbox does" do
    expect(codes(subject: "A word about your dining room, and about the table at the back that nobody asks for")).to eq(["long_subject"])
    expect(codes(subject: "SPRING is here!")).to eq(%w[shouting exclaiming])
    expect(codes(subject: "For [company] in York", preview: "")).to eq(["no_preview"])
    expect(codes(preview: "A word about your room")).to eq(["preview_repeats"])
  end

  it "looks at links, buttons and pictures" do
    picture = {"type" => "picture", "attrs" => {"picture_id" => 1, "alt" => [], "href" => [], "width" => 100}}

    expect(codes(body: parsed(para(good), para(link("here", "https://a.example"))))).to eq(["link_says_here"])
    expect(codes(body: parsed(para(good), {"type" => "button", "attrs" => {"href" => []}, "content" => words("Go")}))).to eq(
      ["empty_link"]
    )
    expect(codes(body: parsed(picture))).to eq(%w[no_alt only_pictures])
  end

  it "dislikes what filters dislike, and what nobody can read" do
    expect(codes(body: "#{good} Act now, it is risk-free.")).to eq(%w[disliked_words disliked_words])
    expect(codes(body: good + " and so" * 20)).to eq(["long_sentence"])
    expect(codes(body: "#{good}\n\n" + (["We listen to the room for you."] * 90).join(" "))).to eq(["long_letter"])
    expect(codes(body: "#{good} F R E E felt")).to eq(["spaced_letters"])
  end

  it "names the people without a value, the weight, and colours that cannot be read" do
    contrast = [{what: "Links on the sheet", ratio: 2.1, enough: false}]

    expect(described_class.call(given(gaps: {"person.city" => [3, false]})).first).to have_attributes(
      code: "gap",
      words: "3 people have no city where it is asked for, and it has no fallback.",
      blocking: nil,
      count: 3
    )
    expect(codes(html_bytes: 200_000, attachment_bytes: 7_000_000)).to eq(%w[cut_off heavy])
    expect(codes(contrasts: contrast)).to eq([])
    expect(codes(contrasts: contrast, designed: true)).to eq(["contrast"])
  end

  it "blocks only what would really break the send, and says it first" do
    advice = described_class.call(given(subject: "", body: "{{frist name}} {{deal value}}", postal_address: " "))

    expect(advice.select(&:blocking).map(&:code)).to eq(%w[no_subject deal_field unknown_field no_postal_address])
    expect(advice.find { |one| one.code == "unknown_field" }.words).to eq("There is no field “frist name”. Did you mean “first name”?")
    expect(codes(body: "{{deal value}} #{good}", for_deal: true)).to eq([])
    expect(codes(body: "")).to eq(["no_text"])
  end

  it "reads the passages that stand in a letter as well" do
    passage = parsed(para("{{frist name}}"), {"type" => "button", "attrs" => {"href" => []}, "content" => words("Go")})

    expect(codes(passages: [passage])).to eq(%w[empty_link unknown_field])
  end

  it "can say nothing without a reason and a place" do
    everything = described_class.call(given(subject: "WOW!!", preview: "", body: "{{x}}", html_bytes: 200_000, postal_address: ""))

    expect(everything.map { |advice| [advice.why.to_s.empty?, %w[subject preview body firm].include?(advice.part)] }.uniq).to eq(
      [[false, true]]
    )
  end
end
