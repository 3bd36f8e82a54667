# frozen_string_literal: true

require "commonmarker"
require "nokogiri"

RSpec.describe Core::Letters::MarkdownWriter do
  def written(*blocks, facts: {}) = described_class.new(picture: ->(id) { "pictures/#{id}.jpg" }).write(merged(parsed(*blocks), facts))

  # What another program makes of it.
  def read_back(*blocks)
    Nokogiri::HTML5.fragment(CommonMarker.render_html(written(*blocks), :UNSAFE, %i[table]))
  end

  def bold(text) = {"type" => "text", "text" => text, "marks" => [{"type" => "bold"}]}

  it "writes headings, lists, quotes and dividers" do
    expect(
      written(
        {"type" => "heading", "attrs" => {"level" => 2}, "content" => words("Rooms")},
        {
          "type" => "bulletList",
          "content" => [
            {"type" => "listItem", "content" => [para("felt")]},
            {"type" => "listItem", "content" => [para("foam"), para("or wool")]}
          ]
        },
        {"type" => "orderedList", "content" => [{"type" => "listItem", "content" => [para("listen")]}]},
        {"type" => "quote", "content" => [para("the bell")]},
        {"type" => "divider"}
      )
    ).to eq("## Rooms\n\n- felt\n- foam\n  or wool\n\n1. listen\n\n> the bell\n\n---\n")
  end

  it "writes links, buttons and pictures" do
    picture = {
      "type" => "picture",
      "attrs" => {
        "picture_id" => 3,
        "alt" => words("A room"),
        "href" => words("https://a.example"),
        "width" => 100
      }
    }

    expect(written(para(link("Listen", "https://a.example/x")))).to eq("[Listen](https://a.example/x)\n")
    expect(written({"type" => "button", "attrs" => {"href" => words("https://a.example")}, "content" => words("Go")})).to eq(
      "[Go](https://a.example)\n"
    )
    expect(written(picture)).to eq("[![A room](pictures/3.jpg)](https://a.example)\n")
  end

  it "leaves out what is put below every letter" do
    expect(written(para("one"), {"type" => "signature"}, {"type" => "footer"})).to eq("one\n")
  end

  it "keeps the spaces beside bold words outside of the mark" do
    expect(written(para("so", bold(" quiet "), "it is"))).to eq("so **quiet** it is\n")
  end

  describe "words that look like Markdown" do
    ["*not bold*", "_nor this_", "`code`", "[a](b)", "<b>x</b>", "# no heading", "\\", "felt | wool", "&copy; and &amp;"].each do |text|
      it "stay #{text.inspect}" do
        expect(read_back(para(text)).text.strip).to eq(text)
      end
    end

    ["- no list", "+ no list", ": no term", "1. First we listen", "12) then measure", "---", "===", "> no quote", "~~~"].each do |text|
      it "stay a paragraph: #{text.inspect}" do
        page = read_back(para(text), para("and so on"))

        expect(page.children.select(&:element?).map(&:name)).to eq(%w[p p])
        expect(page.at_css("p").text).to eq(text)
      end
    end

    it "stay words after a line break as well" do
      page = read_back(para("We bring", {"type" => "hardBreak"}, "- felt"))

      expect(page.css("li").size).to eq(0)
    end
  end

  it "keeps brackets in the words of a picture" do
    picture = {"type" => "picture", "attrs" => {"picture_id" => 3, "alt" => words("A room [before]"), "href" => [], "width" => 100}}

    expect(read_back(picture).at_css("img")["alt"]).to eq("A room [before]")
  end

  it "keeps an address with brackets whole" do
    page = read_back(para(link("Map", "https://a.example/map_(york")))

    expect(page.at_css("a")["href"]).to eq("https://a.example/map_(york")
  end
end
