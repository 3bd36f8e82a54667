# frozen_string_literal: true

require "mail"

RSpec.describe NimbleLetter::Files::MailHeader do
  let(:texts) do
    ["Short", "A plain subject that goes on and on, well beyond what a line has room for, and then a little more #{"of it " * 20}",
      "Zażółć gęślą jaźń — #{"bardzo długi temat listu do państwa " * 5}", "日本語の名前がとても長い人です" * 6, "😀👩‍👩‍👧‍👦" * 12, "é" * 300,
      "Ends with ü", "a\u0301#{"\u0301" * 80} marks", "Lines\r\nBcc: x@y.example"]
  end

  def line_lengths(field) = field.split("\r\n").map(&:bytesize)

  it "has no encoded word of more than 75 characters and no line of more than 78, and reads the same again" do
    texts.each do |text|
      field = described_class.line("Subject", text)
      expect(line_lengths(field).max).to be <= 78
      expect(field.scan(/=\?[^?]+\?B\?[^?]*\?=/).map(&:size).max.to_i).to be <= 75
      expect(field.count(":").positive? && field.scan(/^\S+:/).size).to eq(1)
      expect(Mail.new("#{field}\r\n").subject.unicode_normalize).to eq(text.gsub(/[[:cntrl:]]+/, " ").strip.unicode_normalize)
    end
  end

  it "has names before addresses likewise" do
    ["Ana Lark", "Lark, Ana", "A \"B\" <x>", "Jürgen Müller-Lüdenscheidt von und zu Hohenstaufenbergsdörfer", "田中太郎" * 12].each do |name|
      field = described_class.line("To", described_class.address(name, "ana@x.example"))
      expect(line_lengths(field).max).to be <= 78
      to = Mail.new("#{field}\r\n")[:to].addrs.first
      expect([to.address, to.display_name]).to eq(["ana@x.example", name])
    end
  end

  it "leaves what has no space to fold at" do
    value = "<https://x.example/#{"a" * 100}>"
    expect(described_class.line("List-Unsubscribe", value)).to eq("List-Unsubscribe: #{value}\r\n")
  end
end
