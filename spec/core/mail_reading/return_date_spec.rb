# frozen_string_literal: true

RSpec.describe Core::MailReading::ReturnDate do
  # A Tuesday.
  let(:came) { Date.new(2026, 5, 12) }

  def found(text, **how) = described_class.find(text, on: came, **how)&.iso8601

  {
    "I am away until Friday 22 May and will read it then." => "2026-05-22",
    "I will be back in the office on Monday." => "2026-05-18",
    "Back Monday, 25 May 2026." => "2026-05-25",
    "I am out of the office from 11 May until 29 May. For urgent things ring Bo." => "2026-05-29",
    "Returning on May 25th, 2026" => "2026-05-25",
    "I return on 03/06/2026." => "2026-06-03",
    "Ich bin bis zum 22. Mai nicht im Büro." => "2026-05-22",
    "Ab Montag, den 1. Juni bin ich wieder erreichbar." => "2026-06-01",
    "Ich bin vom 11.5. bis 22.5.2026 im Urlaub." => "2026-05-22",
    "Je suis absente jusqu’au 29 mai. De retour le 1er juin 2026." => "2026-06-01",
    "Estaré fuera hasta el 22 de mayo de 2026." => "2026-05-22",
    "Sono assente fino al 22 maggio." => "2026-05-22",
    "Ik ben afwezig tot 22 mei." => "2026-05-22",
    "Estou ausente até 22 de maio." => "2026-05-22",
    "Jestem nieobecny do 22 maja." => "2026-05-22",
    "Away till 2026-05-20" => "2026-05-20",
    "Back in January: until 4 January I read no mail." => nil,
    "I am away." => nil,
    "Until further notice I am away. Founded on 3 June 1998." => nil,
    "I am back since 4 May, but slow." => nil,
    "until 31 April" => nil,
    "Ring 01632 960 101 until 5 pm." => nil,
    "" => nil
  }.each do |text, day|
    it("reads #{text.inspect} as #{day || "no day"}") { expect(found(text)).to eq(day) }
  end

  it "reads 03/06 as the firm writes it" do
    expect([found("back on 06/03", order: "mdy"), found("back on 03/06", order: "dmy")]).to eq(%w[2026-06-03 2026-06-03])
  end

  it "is not kept busy by texts made for it" do
    ["until " * 5000, "1." * 5000, "until 1 mai " * 2000, "back on #{"9" * 10_000}"].each { |text|
      expect(found(text)).to satisfy { |day|
        day.nil? || day > "2026"
      }
    }
  end
end
