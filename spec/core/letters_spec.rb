# frozen_string_literal: true

RSpec.describe Core::Letters do
  def letter(text) = described_class::Document.from_text(text)

  def merge(text, facts, **rest) = described_class::Merge.new(subject: letter("For {{first name}}"), preview: letter("x"), body: letter(text)).call(facts, **rest)

  let(:html) { described_class::HtmlWriter.new }

  describe "Document.parse!" do
    it "turns typed names into merge fields, by label, key or bare name" do
      fields = letter("{{First name}} {{person.city|your town}} {{ company }}").merge_fields.map { |node| node["attrs"].values }

      expect(fields).to eq([["person.first_name", nil], ["person.city", "your town"], ["company.name", nil]])
    end

    it "names an unknown field and the nearest right one" do
      expect { letter("Dear {{frist name}}") }.to raise_error(Invalid) do |error|
        expect([error.code, error.data[:nearest], error.at]).to eq([:unknown_field, "person.first_name", "body.content[0].content[0]"])
      end
    end

    it "refuses what could run or hide in a mail program" do
      [{"type" => "script"}, {"type" => "image", "attrs" => {"src" => "x"}}].each do |node|
        expect { described_class::Document.parse!({"type" => "doc", "content" => [node]}) }.to raise_error(Invalid)
      end
      link = {"type" => "text", "text" => "x", "marks" => [{"type" => "link", "attrs" => {"href" => "javascript:alert(1)"}}]}
      expect { described_class::Document.parse!({"type" => "doc", "content" => [{"type" => "paragraph", "content" => [link]}]}) }.to raise_error(Invalid, /https/)
    end

    it "refuses a letter of 5 MB" do
      expect { letter("word " * 1_000_000) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:letter_too_long) }
    end

    it "gives back what it was given" do
      document = letter("Dear {{first name|there}},\n\nsecond line")

      expect(described_class::Document.parse!(JSON.parse(JSON.generate(document.to_h)))).to eq(document)
    end
  end

  describe "merging" do
    it "puts values in, falls back, and reports every gap once" do
      merged = merge("Dear {{first name|there}}, {{city}} {{city}}", {"person.first_name" => "Ana"})

      expect(described_class::TextWriter.write(merged)).to eq("Dear Ana,  \n")
      expect(merged.gaps).to eq(["person.city"])
      expect(merge("{{first name|there}}", {}).gaps).to eq(["person.first_name"]) # in the subject it has no fallback
    end

    it "escapes whatever stands in a record" do
      written = html.write(merge("Dear {{first name}}", {"person.first_name" => %(<img src=x onerror="a()">&)}))

      expect(written).to include("&lt;img src=x onerror=&quot;a()&quot;&gt;&amp;")
      expect(written).not_to include("<img")
    end

    it "keeps a name with line breaks on one line of the subject" do
      merged = merge("x", {"person.first_name" => "Ana\r\nBcc: all@firm.example"})

      expect(described_class::TextWriter.line(merged.subject)).to eq("For Ana Bcc: all@firm.example")
    end

    it "puts a line of one's own after the first words" do
      merged = merge("Dear {{first name}},\n\nbody", {"person.first_name" => "Ana"}, personal_line: "Good to see you.\nTruly.")

      expect(described_class::TextWriter.write(merged)).to eq("Dear Ana,\n\nGood to see you.\nTruly.\n\nbody\n")
    end

    it "never lets a value out unescaped, and the text part has every word" do
      words = PropCheck::Generators.string
      PropCheck.forall(words).with_config(n_runs: 200) do |value|
        merged = merge("Dear {{first name|you}} end", {"person.first_name" => value})
        said = described_class::Values.say(value) || "you"
        raise "text lost #{value.inspect}" unless described_class::TextWriter.write(merged).include?(said)
        raise "html let #{value.inspect} out" unless html.write(merged).include?("Dear #{CGI.escapeHTML(said)} end")
      end
    end
  end

  describe "writing" do
    let(:linked) { {"type" => "doc", "content" => [{"type" => "paragraph", "content" => [{"type" => "text", "text" => "listen", "marks" => [{"type" => "link", "attrs" => {"href" => "https://a.example/x?y=1&z"}}, {"type" => "bold"}]}]}, {"type" => "bulletList", "content" => [{"type" => "listItem", "content" => [{"type" => "paragraph", "content" => [{"type" => "text", "text" => "one"}]}]}]}]} }
    let(:merged) { described_class::Merge.new(subject: letter("s"), preview: letter("p"), body: described_class::Document.parse!(linked)).call({}) }

    it "sends links through the tracker and shows them in the text" do
      writer = described_class::HtmlWriter.new(link: ->(href) { "https://t.example/?to=#{href.length}&" }, pixel_url: "https://t.example/o.gif")

      expect(writer.write(merged)).to include('<a href="https://t.example/?to=25&amp;" style="color:#0e5a55"><strong>listen</strong></a>', '<img src="https://t.example/o.gif"', "<li>one</li>")
      expect(described_class::TextWriter.write(merged, signature: ["Maren"])).to eq("listen (https://a.example/x?y=1&z)\n\n- one\n\nMaren\n")
    end
  end
end
