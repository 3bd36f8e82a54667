# frozen_string_literal: true

RSpec.describe Core::MailReading::QuoteCutter do
  def own(text) = described_class.call(text)

  it "leaves out the letter that is answered" do
    expect(own("Yes please.\r\n\r\nOn 3 May 2026, 10:12, Maren Holt wrote:\r\n> Dear Ana\r\n> \r\n> well\r\n")).to eq("Yes please.")
    expect(own("Yes.\n\n-----Original Message-----\nFrom: Maren\n\nDear Ana")).to eq("Yes.")
    expect(own("Yes.\n\nFrom: Maren\nSent: Monday\nTo: Ana\nSubject: A word\n\nDear Ana")).to eq("Yes.")
    expect(own("Yes.\n> Dear Ana\n>\n")).to eq("Yes.")
  end

  {
    "Am 3. Mai 2026 um 10:12 schrieb Maren Holt <m@x.example>:" => "German",
    "Le 3 mai 2026 à 10:12, Maren Holt <m@x.example> a écrit :" => "French",
    "El 3 de mayo de 2026, Maren Holt escribió:" => "Spanish",
    "Il giorno 3 maggio 2026 Maren Holt ha scritto:" => "Italian",
    "Op 3 mei 2026 om 10:12 schreef Maren Holt:" => "Dutch",
    "Em 3 de maio de 2026, Maren Holt escreveu:" => "Portuguese",
    "W dniu 3 maja 2026 Maren Holt napisała:" => "Polish"
  }.each { |line, language| it("knows who wrote in #{language}") { expect(own("Ja.\n\n#{line}\n> Dear Ana")).to eq("Ja.") } }

  it "knows a line that a mail program broke" do
    expect(
      own("Yes.\n\nOn Sunday 3 May 2026, at 10:12,\nMaren Holt of Tern & Fallow <maren@ternandfallow.example>\nwrote:\n> Dear")
    ).to eq("Yes.")
  end

  it "finds an answer below the letter, and leaves answers between its lines where they are" do
    expect(own("On 3 May Maren wrote:\n> Dear Ana\n>\n\nplease unsubscribe\n")).to eq("please unsubscribe")
    expect(own("On 3 May Maren wrote:\n> When?\nMonday.\n> Where?\nHere.\n")).to eq("> When?\nMonday.\n> Where?\nHere.")
  end

  it "leaves out a signature, and gives the whole of what is nothing but a quote" do
    expect(own("Yes.\n-- \nAna Lark\nThe Copper Ladle")).to eq("Yes.")
    expect(own("> all of it\n> is a quote")).to eq("> all of it\n> is a quote")
    expect(own("")).to eq("")
    expect(own(nil)).to eq("")
  end

  it "does not take a sentence for the beginning of a quote" do
    text = "On Monday we are shut. My partner wrote: come on Tuesday.\nFrom: Tuesday on, any hour is fine."

    expect(own(text)).to eq(text)
  end

  # What kept a backtracking expression busy for a minute. Each line is looked at once: the steps grow with the text.
  it "is not kept busy by texts made for it" do
    ["On " * 20_000, "On x\n" * 20_000, "> " * 30_000, ">\n" * 30_000, "From: x\n" * 20_000, "On #{"wrote " * 10_000}"].each do |text|
      expect(own(text)).to be_a(String)
    end
  end
end
