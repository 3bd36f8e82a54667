# frozen_string_literal: true

require "nokogiri"

RSpec.describe "a letter written out" do
  letters = Core::Letters
  golden = ->(name) { File.join(ROOT, "spec/fixtures/letters", name) }
  facts = {
    "person.first_name" => "Łucja",
    "person.city" => "York",
    "company.name" => "Pike & <Parsley>",
    "today.date" => Date.new(2026, 5, 12)
  }.freeze
  picture = ->(id) { (id == 3) ? {url: "https://letters.example/p/k.jpg", width: 1200} : nil }

  def whole
    parsed(
      {"type" => "heading", "attrs" => {"level" => 1}, "content" => words("A quieter spring")},
      para("Dear ", chip("person.first_name", "there"), ","),
      para(
        "how is ",
        chip("company.name"),
        " in ",
        chip("person.city"),
        "?",
        {"type" => "hardBreak"},
        link("Listen", "https://a.example/x?y=1&z", title: "Two recordings")
      ),
      {
        "type" => "picture",
        "attrs" => {
          "picture_id" => 3,
          "alt" => [*words("A room in "), chip("person.city")],
          "href" => words("https://a.example/room"),
          "width" => 50
        }
      },
      {
        "type" => "button",
        "attrs" => {
          "href" => [*words("https://a.example/?c="), chip("company.name")]
        },
        "content" => words("Choose a morning")
      },
      {
        "type" => "columns",
        "content" => [{"type" => "column", "content" => [para("Before")]}, {"type" => "column", "content" => [para("After")]}]
      },
      {
        "type" => "bulletList",
        "content" => [
          {"type" => "listItem", "content" => [para("felt")]},
          {"type" => "listItem", "content" => [para("foam"), para("or wool")]}
        ]
      },
      {"type" => "quote", "content" => [para("I had forgotten the bell.")]},
      {"type" => "divider"},
      {"type" => "signature"},
      {
        "type" => "links",
        "content" => [link("Site", "https://a.example"), {"type" => "text", "text" => " · "}, link("Map", "https://a.example/map")]
      }
    )
  end

  let(:signature) do
    letters::Merge
      .new(
        subject: letters::Document.new(doc),
        preview: letters::Document.new(doc),
        body: letters::Document.from_text("Idris Vale\nTern & Fallow")
      )
      .call({})
      .blocks
  end
  let(:foot) { letters::Foot.new(address: "Tern & Fallow, York", unsubscribe_url: "https://letters.example/u/x", language: "en") }

  def written(designed, facts, picture)
    letter = merged(whole, facts, subject: "For {{first name}}", preview: "One hour")
    styles = Work::InlinedStyles.of(Core::Letters::Look.new, designed: designed)
    html =
      Core::Letters::HtmlWriter.new(
        styles: styles,
        designed: designed,
        picture: picture,
        link: ->(href) { "https://letters.example/c/#{href.length}" },
        pixel_url: "https://letters.example/o.gif"
      )
    [
      html.write(letter, signature: signature, foot: foot, brand: designed ? {name: "Tern & Fallow", picture_id: nil} : nil),
      Core::Letters::TextWriter.write(letter, signature: signature, foot: foot)
    ]
  end

  # The golden files are what we once looked at and found right. WRITE_GOLDEN=1 writes them anew, to be looked at again.
  {"plain" => false, "designed" => true}.each do |name, designed|
    it "reads as the golden #{name} letter does" do
      html, text = written(designed, facts, picture)
      if ENV["WRITE_GOLDEN"]
        File.write(golden.call("#{name}.html"), html)
        File.write(golden.call("letter.txt"), text)
      end

      expect(html).to eq(File.read(golden.call("#{name}.html")))
      expect(text).to eq(File.read(golden.call("letter.txt")))
    end

    it "is valid HTML when #{name}" do
      html, = written(designed, facts, picture)

      expect(Nokogiri::HTML5.parse(html, max_errors: 20).errors.map(&:to_s)).to eq([])
    end

    it "runs nothing and fetches nothing but pictures when #{name}" do
      page = Nokogiri::HTML5.parse(written(designed, facts, picture).first)

      expect(page.css("script, link, iframe, form, object, [onclick], [onload]").to_a).to eq([])
      expect(page.css("img").map { |image| image["src"] }).to eq(["https://letters.example/p/k.jpg", "https://letters.example/o.gif"])
      expect(page.css("img").map { |image| image["alt"] }).to eq(["A room in York", ""])
    end
  end

  it "is no wider than 600 when designed, in tables that say they are only layout, and knows dark schemes" do
    page = Nokogiri::HTML5.parse(written(true, facts, picture).first)

    expect(page.css("table").map { |table| table["role"] }.uniq).to eq(["presentation"])
    expect(page.at_css("table.sheet")["style"]).to include("width: 600px", "max-width: 100%")
    expect(page.at_css("meta[name=color-scheme]")["content"]).to eq("light dark")
    expect(page.at_css("style").text).to include("prefers-color-scheme: dark")
  end

  # The accent is chosen to be read on a light sheet: the firm's name was dark green on dark grey.
  it "can be read on a dark sheet: whatever has a colour of its own there has another in a dark scheme" do
    dark = NimbleLetter::Core::Letters::Stylesheet.dark[/\{(.+)\}/m, 1].scan(/([^{}]+)\{([^}]*)\}/)
    sheet = dark.find { |names, _| names.include?(".sheet") }.last[/#\h{6}/]

    ["p", ".logo", ".foot", ".content p a", ".content h1"].each do |part|
      rule = dark.reverse.find { |names, one| names.include?(part) && one.match?(/(^| )color:/) }&.last
      colour = rule.to_s[/(?<!-)color: (#\h{6})/, 1]
      expect(colour).not_to be_nil, part
      expect(NimbleLetter::Core::Letters::Contrast.ratio(colour, sheet)).to be >= 4.5
    end
  end

  it "reads on its marks, whatever the letter around them is like" do
    rules = NimbleLetter::Core::Letters::Marking::CSS.scan(/background:(#\h{6});color:(#\h{6})/)

    expect(rules.size).to eq(NimbleLetter::Core::Letters::Marking::CSS.scan("background:").size)
    expect(rules.map { |pair| NimbleLetter::Core::Letters::Contrast.ratio(*pair) }).to all(be >= 4.5)
  end

  it "keeps the words of a designed letter when it turns plain" do
    plain, designed =
      [false, true].map do |manner|
        Nokogiri::HTML5.parse(written(manner, facts, picture).first).xpath("//body//text()").map(&:text).join(" ")
      end

    expect(designed.sub("Tern & Fallow", "").split - plain.split).to eq([])
  end

  describe "whatever stands in a record" do
    strings = PropCheck::Generators.string
    hostile =
      PropCheck::Generators.one_of(
        strings,
        PropCheck::Generators.constant(%(<img src=x onerror="a()">)),
        PropCheck::Generators.constant("</title><script>x</script>"),
        PropCheck::Generators.constant("\" onclick=\"x"),
        PropCheck::Generators.constant("a\r\nBcc: x@y.example"),
        PropCheck::Generators.constant("{{first name}}"),
        PropCheck::Generators.constant("javascript:alert(1)")
      )

    it "is never let out unescaped, and stands in the text as well" do
      PropCheck.forall(hostile, hostile).with_config(n_runs: 200) do |name, company|
        html, text =
          written(
            true,
            {"person.first_name" => name, "person.city" => "York", "company.name" => company},
            ->(_) { {url: "https://p.example", width: 10} }
          )
        page = Nokogiri::HTML5.parse(html)
        if page.css("script, [onerror], [onclick]").any? || page.css("img").size != 2
          raise "an element came from #{[name, company].inspect}"
        end
        raise "an address runs #{company.inspect}" if page.css("a").any? { |a| a["href"].match?(/\Ajavascript/i) }
        said = Core::Letters::Values.clean(name) || "there"
        raise "text lost #{name.inspect}" unless text.include?(said)
        raise "html lost #{name.inspect}" unless html.include?("Dear #{CGI.escapeHTML(said)},")
      end
    end

    it "has every word of the HTML in the text, and every gap exactly once" do
      fields = %w[person.first_name person.city company.name person.country owner.name]
      blocks =
        PropCheck::Generators.array(
          PropCheck::Generators.one_of(
            *fields.map { |key| PropCheck::Generators.constant(key) },
            *%w[felt wool ceiling].map { |word| PropCheck::Generators.constant(word) }
          ),
          min: 1,
          max: 12
        )
      PropCheck.forall(blocks, blocks).with_config(n_runs: 150) do |one, known|
        body =
          parsed(
            *one.map do |part|
              if fields.include?(part)
                para("so ", chip(part), " it is")
              else
                {"type" => "bulletList", "content" => [{"type" => "listItem", "content" => [para(part)]}]}
              end
            end
          )
        given = (known & fields).to_h { |key| [key, "V#{key.hash.abs}"] }
        letter = merged(body, given)
        html, text = Core::Letters::HtmlWriter.new.write(letter), Core::Letters::TextWriter.write(letter)
        raise "words lost" unless (Nokogiri::HTML5.parse(html).at("body").text.sub("P", "").split - text.split).empty?
        raise "gaps #{letter.gaps} of #{one}" unless letter.gaps == (one & fields) - given.keys
      end
    end
  end

  it "marks on our screens what was put in, and where something is missing" do
    mark = letters::Marking.new(Core::Fields::Standard.catalogue)
    html =
      letters::HtmlWriter.new(mark: mark).write(
        merged(
          "Dear {{first name}}, {{city|you}} {{country}}",
          {"person.first_name" => "<b>"},
          line: letters::Merge::Line.new("Hello", nil)
        )
      )

    expect(html).to include(
      '<span class="nl-merged" title="First name">&lt;b&gt;</span>',
      "nl-fallback",
      'data-gap="person.country"',
      '<span class="nl-personal">Hello</span>'
    )
  end
end

RSpec.describe Core::Letters::Look do
  it "knows whether its colours can be read" do
    expect(described_class.new.contrasts.map { |pair| pair[:enough] }).to eq([true, true, true])
    expect(described_class.new("accent" => "#f0e0a0").contrasts.map { |pair| pair[:enough] }).to eq([true, false, false])
    expect(Core::Letters::Contrast.ratio("#000000", "#ffffff").round(2)).to eq(21.0)
  end

  it "takes colours and faces only" do
    expect { described_class.new("ink" => "red;background:url(x)") }.to raise_error(Invalid) { |error| expect(error.at).to eq("look.ink") }
    expect { described_class.new("font" => "comic") }.to raise_error(Invalid)
  end
end

RSpec.describe Core::Letters::Split do
  it "gives each version to half of them, the same whenever it is asked" do
    split = described_class.of(4, (1..101).to_a)

    expect(split.values.tally.values.sort).to eq([50, 51])
    expect(described_class.of(4, (1..101).to_a.shuffle)).to eq(split)
    expect(described_class.of(5, (1..101).to_a)).not_to eq(split)
  end

  it "fills up the smaller side first when people join later" do
    expect(described_class.of(4, [1, 2, 3], before: {"a" => 5, "b" => 2}).values.tally).to eq("b" => 3)
  end
end
