# frozen_string_literal: true

RSpec.describe NimbleLetter::Core::Letters::FileMarks do
  def para(text) = {"type" => "paragraph", "content" => [{"type" => "text", "text" => text}]}

  def held(*texts) = described_class.hold({"type" => "doc", "content" => texts.map { |text| para(text) }})["content"]

  def shape(blocks)
    blocks.map do |block|
      next block["content"].first["text"] unless block["type"] == "conditional"

      sides = block["content"].map { |side| (side["content"] || []).filter_map { |one| one.dig("content", 0, "text") } }
      [block["attrs"]["condition"], sides]
    end
  end

  let(:nobody) { described_class::NOBODY }

  it "holds back what stands between the marks, both sides of it, and nothing else" do
    parts = ["[Only for everyone who lives in York:]", "Come by", "[For everybody else:]", "Call", "[For everybody again:]"]
    expect(shape(held("Hello", *parts, "Bye"))).to eq(["Hello", [nobody, [parts, []]], "Bye"])
  end

  it "holds back what stands in a part within a part, and all that follows when an end is missing" do
    within = ["[Only for a:]", "one", "[Only for b:]", "two", "[For everybody again:]", "three", "[For everybody again:]"]
    expect(shape(held(*within, "Bye"))).to eq([[nobody, [within, []]], "Bye"])
    expect(shape(held("Hello", "[Only for a:]", "one", "Bye"))).to eq(["Hello", [nobody, [["[Only for a:]", "one", "Bye"], []]]])
    expect(shape(held("Hello", "[For everybody else:]", "one"))).to eq(["Hello", [nobody, [["[For everybody else:]", "one"], []]]])
  end

  it "takes other brackets for words" do
    texts = ["[Only for fun]", "Only for you:", "[for everybody again:]", "x [For everybody again:]"]
    expect(shape(held(*texts))).to eq(texts)
  end

  it "makes a document that can be read, of which nobody has the part" do
    document = NimbleLetter::Core::Letters::Document.parse!({"type" => "doc", "content" => held("Hi", "[Only for a:]", "one")})
    condition = NimbleLetter::Core::Conditions::Parser.new.parse!(nobody)
    expect(NimbleLetter::Core::Conditions::Everybody.nobody?(condition)).to be(true)
    expect(document.each_node.count { |node| described_class.mark?(node) }).to eq(1)
  end
end
