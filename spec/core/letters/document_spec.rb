# frozen_string_literal: true

RSpec.describe Core::Letters::Document do
  def letter(text) = described_class.from_text(text)

  def refusal(*blocks) = begin
    parsed(*blocks) && nil
  rescue Invalid => error
    error
  end

  it "turns typed names into merge fields, by label, key or bare name" do
    fields = letter("{{First name}} {{person.city|your town}} {{ company }}").merge_fields.map { |node| node["attrs"].values }

    expect(fields).to eq([["person.first_name", nil, nil], ["person.city", "your town", nil], ["company.name", nil, nil]])
  end

  it "keeps an unknown name as it was typed, and tells of it" do
    document = letter("Dear {{frist name}}, {{city}}")

    expect(document.unknown_names).to eq(["frist name"])
    expect(document.to_h["content"][0]["content"][0]["text"]).to eq("Dear {{frist name}}, ")
  end

  it "takes every block it knows, and gives back what it was given" do
    blocks = [
      {"type" => "heading", "attrs" => {"level" => 1}, "content" => words("Hello")},
      para("Dear ", chip("person.first_name", "there", "upper"), link(" x", "https://a.example", title: "A")),
      {
        "type" => "picture",
        "attrs" => {
          "picture_id" => 3,
          "alt" => words("A room"),
          "href" => words("https://a.example"),
          "width" => 80
        }
      },
      {
        "type" => "button",
        "attrs" => {
          "href" => [*words("https://a.example/?c="), chip("company.name")]
        },
        "content" => words("Listen")
      },
      {
        "type" => "columns",
        "content" => [{"type" => "column", "content" => [para("left")]}, {"type" => "column", "content" => [para("right")]}]
      },
      {"type" => "quote", "content" => [para("said")]},
      {"type" => "divider"},
      {"type" => "links", "content" => [link("Site", "https://a.example")]},
      shown_if({"field" => "person.city", "is" => "one_of", "value" => ["York"]}, [para("in York")], [para("elsewhere")]),
      {"type" => "passage", "attrs" => {"passage_id" => 7}},
      {"type" => "signature"},
      {"type" => "footer"}
    ]
    document = parsed(*blocks)

    expect(described_class.parse!(JSON.parse(JSON.generate(document.to_h)))).to eq(document)
    expect([document.picture_ids, document.passage_ids, document.links, document.conditions.size, document.merge_fields.size]).to eq(
      [[3], [7], 4, 1, 2]
    )
  end

  it "refuses what could run or hide in a mail program, and says where" do
    [
      {"type" => "script"},
      {"type" => "image", "attrs" => {"src" => "x"}},
      {"type" => "columns", "content" => []},
      {"type" => "picture", "attrs" => {"picture_id" => "3"}}
    ].each { |node| expect(refusal(node)).to have_attributes(code: :letter_unclear, at: start_with("body.content[0]")) }
    expect(refusal(para(link("x", "javascript:alert(1)")))).to have_attributes(code: :link_unclear, message: /https/)
    expect(
      refusal({"type" => "button", "attrs" => {"href" => words("data:text/html,x")}, "content" => words("x")})
    ).to have_attributes(code: :link_unclear)
  end

  it "lets passages for some stand in one another, but no deeper than people can follow" do
    condition = {"field" => "person.city", "is" => "empty"}
    two = shown_if(condition, [shown_if(condition, [para("x")])])

    expect(parsed(two).conditions.size).to eq(1)
    expect(refusal(shown_if(condition, [two]))).to have_attributes(message: /no deeper/)
    expect(refusal(shown_if({"field" => "person.shoe"}, []))).to have_attributes(code: :unknown_field)
  end

  it "refuses 5 MB, and a tree that is too deep" do
    expect { letter("word " * 1_000_000) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:letter_too_long) }
    deep = 20.times.inject(para("x")) { |inner, _| {"type" => "bulletList", "content" => [{"type" => "listItem", "content" => [inner]}]} }
    expect(refusal(deep)).to have_attributes(message: /too deep/)
  end

  it "takes a subject as one line only" do
    expect { described_class.parse!(doc({"type" => "divider"}), line: true) }.to raise_error(Invalid)
  end
end
