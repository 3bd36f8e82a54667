# frozen_string_literal: true

require "nokogiri"

RSpec.describe Core::Letters::HtmlWriter do
  def page(*blocks, facts: {}, signature: [], foot: nil, brand: nil, **writer)
    Nokogiri::HTML5.parse(
      described_class.new(**writer).write(merged(parsed(*blocks), facts), signature: signature, foot: foot, brand: brand)
    )
  end

  def item(*blocks) = {"type" => "listItem", "content" => blocks}

  let(:picture) do
    {
      "type" => "picture",
      "attrs" => {
        "picture_id" => 3,
        "alt" => words("A room"),
        "href" => words("https://a.example"),
        "width" => 50
      }
    }
  end
  let(:button) { {"type" => "button", "attrs" => {"href" => words("https://a.example")}, "content" => words("Go")} }

  it "says its language, so that it is read aloud rightly" do
    html = described_class.new.write(merged("Guten Tag", {}, language: "de"))

    expect(Nokogiri::HTML5.parse(html).at("html")["lang"]).to eq("de")
  end

  it "shows the preview line to inboxes only" do
    expect(page(para("x")).at("body > div")).to have_attributes(text: "P", to_s: include("display:none"))
  end

  describe "marks" do
    it "are bold, italic and links with titles" do
      both = {"type" => "text", "text" => "quiet", "marks" => [{"type" => "bold"}, {"type" => "italic"}]}
      made = page(para(both, link("Listen", "https://a.example?a=1&b=2", title: "Two \"recordings\"")))

      expect(made.at("em > strong").text).to eq("quiet")
      expect(made.at("a").attributes.slice("href", "title").transform_values(&:value)).to eq(
        "href" => "https://a.example?a=1&b=2",
        "title" => "Two \"recordings\""
      )
    end

    it "are kept around a merged value" do
      chip_in_bold = chip("person.first_name").merge("marks" => [{"type" => "bold"}])

      expect(page(para("Dear ", chip_in_bold), facts: {"person.first_name" => "<Ana>"}).at("strong").text).to eq("<Ana>")
    end
  end

  describe "links" do
    it "lead where they are told to, each of them" do
      made =
        page(
          para(link("one", "https://a.example")),
          button,
          picture,
          link: ->(href) { "#{href}/tracked" },
          picture: ->(_) { {url: "https://p.example", width: 100} }
        )

      expect(made.css("a").map { |a| a["href"] }.uniq).to eq(["https://a.example/tracked"])
      expect(made.css("a").size).to eq(3)
    end
  end

  describe "pictures" do
    it "are as wide as the letter lets them be" do
      wide, small =
        [1200, 200].map { |width| page(picture, picture: ->(_) { {url: "https://p.example", width: width} }).at("img")["width"] }

      expect([wide, small]).to eq([(Core::Letters::Stylesheet::WIDTH / 2).to_s, "100"])
    end

    it "leave their words when they are gone" do
      expect(page(picture).css("img").to_a).to eq([])
      expect(page(picture).at("p").text).to eq("A room")
    end
  end

  describe "lists" do
    it "hold their first words bare, further paragraphs on a line of their own, and lists within" do
      made =
        page(
          {
            "type" => "bulletList",
            "content" => [item(para("foam"), para("or wool"), {"type" => "orderedList", "content" => [item(para("grey"))]})]
          }
        )

      expect(made.at("ul > li").inner_html).to eq("foam<br>or wool<ol><li>grey</li></ol>")
    end
  end

  describe "in the two manners" do
    let(:columns) do
      {
        "type" => "columns",
        "content" => [{"type" => "column", "content" => [para("before")]}, {"type" => "column", "content" => [para("after")]}]
      }
    end

    it "has a frame only when designed" do
      expect([false, true].map { |designed| page(para("x"), designed: designed).css("table").size }).to eq([0, 2])
    end

    it "sets columns side by side, or below each other" do
      expect(page(columns, designed: true).css("td").map(&:text)).to include("before", "after")
      expect(page(columns).css("body > p").map(&:text).first(2)).to eq(%w[before after])
    end

    it "names the firm at the top of a designed letter, by its picture if it has one" do
      brand = {name: "Tern & Fallow", picture_id: 7}

      expect(page(para("x"), designed: true, brand: brand).text).to include("Tern & Fallow")
      expect(
        page(para("x"), designed: true, brand: brand, picture: ->(_) { {url: "https://p.example", width: 9} }).at("img")["alt"]
      ).to eq("Tern & Fallow")
    end
  end

  describe "the foot" do
    let(:foot) { Core::Letters::Foot.new(address: "4 Felt Yard & Sons", unsubscribe_url: "https://l.example/u?a=1&b=2", language: "de") }

    it "names the firm's address and the way out" do
      made = page(para("x"), foot: foot).css("body > p").last

      expect(made.text).to eq("4 Felt Yard & Sons · Bitte schreiben Sie mir nicht mehr")
      expect(made.at("a")["href"]).to eq("https://l.example/u?a=1&b=2")
    end

    it "is there once, in its place" do
      made = page(para("x"), {"type" => "footer"}, para("y"), foot: foot)

      expect(made.css("body > p").map { |p| p.text[0, 4] }).to eq(["x", "4 Fe", "y"])
    end
  end

  it "fetches the pixel last, if it is to" do
    expect(
      page(para("x"), pixel_url: "https://l.example/o?a=1&b=2")
        .at("body")
        .element_children
        .last
        .attributes
        .slice("src", "alt")
        .transform_values(&:value)
    ).to eq("src" => "https://l.example/o?a=1&b=2", "alt" => "")
    expect(page(para("x")).css("img").to_a).to eq([])
  end
end
