# frozen_string_literal: true

RSpec.describe Files::LetterHtml do
  def read(html) = described_class.new(Core::Fields::Standard.catalogue).read(html)

  def words_of(html) = Core::Letters::Document.parse!(read(html)).summary

  it "keeps words, emphasis, headings, lists, quotes and links" do
    html =
      "<h1>Hello</h1><p>Dear <b>Ana</b>, <i>how</i> <a href='https://a.example' title='T'>are</a> " \
      "you?<br>Well.</p><ul><li>one</li><li>two</li></ul><blockquote>said</blockquote><hr>"

    expect(read(html)["content"].map { |block| block["type"] }).to eq(%w[heading paragraph bulletList quote divider])
    expect(read(html)["content"][1]["content"].filter_map { |node| node["marks"]&.first }).to eq(
      [{"type" => "bold"}, {"type" => "italic"}, {"type" => "link", "attrs" => {"href" => "https://a.example", "title" => "T"}}]
    )
  end

  it "leaves behind what runs, and what nobody sees" do
    html =
      "<style>p{}</style><script>alert(1)</script><p onclick='x()'>Seen <span style='display:none'>hidden</span><span " \
      "style='font-size:0px'>tiny</span><span style='opacity:0'>clear</span>" \
      "<a href='javascript:alert(1)'>link</a> <a href='data:text/html,x'>data</a><img src=x onerror=alert(1)></p><div " \
      "hidden>gone</div><iframe src='//x'></iframe><form><input value=x></form>"

    expect(words_of(html)).to eq("Seen link data")
    expect(JSON.generate(read(html))).not_to match(/javascript|onerror|onclick|alert/)
  end

  it "reads what a word processor puts on the clipboard" do
    html =
      "<html><head><style>p.MsoNormal{margin:0}</style></head><body><p class=MsoNormal>Dear <b " \
      "style='mso-bidi-font-weight:normal'>Ana</b><o:p></o:p></p>" \
      "<p class=MsoListParagraphCxSpFirst><![if !supportLists]><span style='mso-list:Ignore'>·<span>   " \
      "</span></span><![endif]>felt</p><p class=MsoListParagraphCxSpLast><span style='mso-list:Ignore'>·</span>wool</p></body></html>"

    expect(read(html)["content"].map { |block| block["type"] }).to eq(%w[paragraph bulletList])
    expect(words_of(html)).to eq("Dear Ana felt wool")
  end

  it "does not take a page's outer bold for emphasis" do
    expect(read("<b style='font-weight:normal'><p>plain</p></b>")["content"][0]["content"]).to eq([{"type" => "text", "text" => "plain"}])
  end

  it "recognises fields in common notations, and leaves other brackets alone" do
    [
      "{{first name}}",
      "{First Name}",
      "[First name]",
      "«First_Name»",
      "&lt;&lt;First Name&gt;&gt;",
      "%FIRST_NAME%",
      "${first_name}"
    ].each do |notation|
      expect(read("<p>Dear #{notation},</p>")["content"][0]["content"][1]).to include(
        "type" => "mergeField",
        "attrs" => include("field" => "person.first_name")
      ),
        notation
    end
    expect(words_of("<p>[sic] {a, b} 100% of {{first name|there}}</p>")).to eq("[sic] {a, b} 100% of [first name]")
  end

  it "refuses 5 MB, and bears a tree that is too deep or broken" do
    expect { read("<p>#{"word " * 1_100_000}</p>") }.to raise_error(Invalid) { |error| expect(error.code).to eq(:letter_too_long) }
    expect { read("<div>" * 3000) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:html_unclear) }
    expect(words_of("<p>un<b>closed <i>tags</p><td>x")).to eq("unclosed tags x")
    expect(words_of("\xff<p>Zo\u00eb")).to eq("Zoë")
  end
end
