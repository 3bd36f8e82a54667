# frozen_string_literal: true

RSpec.describe Core::Letters::TextWriter do
  def written(*blocks, facts: {}, **rest) = described_class.write(merged(parsed(*blocks), facts), **rest)

  def item(*blocks) = {"type" => "listItem", "content" => blocks}

  describe ".write" do
    it "puts an empty line between blocks" do
      expect(written(para("one"), para("two"))).to eq("one\n\ntwo\n")
    end

    it "puts the address behind the words of a link, once" do
      expect(written(para(link("Listen", "https://a.example")))).to eq("Listen (https://a.example)\n")
      expect(written(para("see ", link("https://a.example", "https://a.example")))).to eq("see https://a.example\n")
    end

    it "writes lists with what stands within them" do
      expect(
        written(
          {
            "type" => "orderedList",
            "content" => [item(para("listen")), item(para("measure"), {"type" => "bulletList", "content" => [item(para("felt"))]})]
          }
        )
      ).to eq("1. listen\n2. measure\n   - felt\n")
    end

    it "writes quotes and dividers as letters typed by hand have them" do
      expect(written({"type" => "quote", "content" => [para("the bell"), para("is gone")]}, {"type" => "divider"})).to eq(
        "> the bell\n> \n> is gone\n\n* * *\n"
      )
    end

    it "writes columns one after the other" do
      expect(
        written(
          {
            "type" => "columns",
            "content" => [{"type" => "column", "content" => [para("before")]}, {"type" => "column", "content" => [para("after")]}]
          }
        )
      ).to eq("before\n\nafter\n")
    end

    it "says what a picture shows and where it leads" do
      picture = ->(alt, href) do
        {
          "type" => "picture",
          "attrs" => {
            "picture_id" => 3,
            "alt" => words(alt).reject { alt.empty? },
            "href" => words(href).reject { href.empty? },
            "width" => 100
          }
        }
      end

      expect(written(picture.call("A room", "https://a.example"))).to eq("[A room] https://a.example\n")
      expect(written(para("one"), picture.call("", ""), para("two"))).to eq("one\n\ntwo\n")
    end

    it "keeps a button's words when it leads nowhere" do
      button = ->(href) { {"type" => "button", "attrs" => {"href" => href}, "content" => words("Go")} }

      expect([written(button.call(words("https://a.example"))), written(button.call([]))]).to eq(["Go: https://a.example\n", "Go\n"])
    end
  end

  describe "signature and foot" do
    let(:signature) { merged("Idris Vale").blocks }
    let(:foot) { Core::Letters::Foot.new(address: "4 Felt Yard", unsubscribe_url: "https://l.example/u", language: "en") }

    it "stand below, divided as RFC 3676 4.3 has it" do
      expect(written(para("one"), signature: signature, foot: foot)).to eq(
        "one\n\nIdris Vale\n\n-- \n4 Felt Yard\nPlease don't write to me again: https://l.example/u\n"
      )
    end

    it "stand where the letter has a place for them, and only there" do
      text = written(para("one"), {"type" => "signature"}, para("PS two"), signature: signature, foot: foot)

      expect(text.scan("Idris Vale").size).to eq(1)
      expect(text.index("Idris Vale")).to be < text.index("PS two")
    end
  end

  describe ".line" do
    it "is one line without doubled spaces" do
      runs = merged("x", {"person.first_name" => "Ana"}, subject: "For  {{first name}} ").subject

      expect(described_class.line(runs)).to eq("For Ana")
    end
  end
end
