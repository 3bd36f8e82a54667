# frozen_string_literal: true

RSpec.describe Core::Letters::VersionRule do
  def goes_on?(before = "Dear Ana, come and listen", after = "Dear Ana, come and listen now", **other)
    body = {before: {"body" => before}, after: {"body" => after}}
    described_class.goes_on?(same_writer: true, since_begun: 60, since_left: 5, **body, **other)
  end

  let(:letter) { (1..40).map { |n| "word#{n}" }.join(" ") }

  it "goes on while one person types" do
    expect([goes_on?, goes_on?("", "Dear"), goes_on?(letter, letter.sub("word7", "wood7"))]).to all(be(true))
  end

  it "begins anew when another writes, after a pause, and after a while" do
    expect(goes_on?(same_writer: false)).to be(false)
    expect(goes_on?(since_left: described_class::PAUSE_SECONDS)).to be(false)
    expect(goes_on?(since_begun: described_class::LONGEST_SECONDS)).to be(false)
  end

  it "begins anew before much is taken away: all of it, a part, or by putting other words in its place" do
    expect(goes_on?("Dear", "")).to be(false)
    expect(goes_on?(letter, letter.split.first(28).join(" "))).to be(false)
    expect(goes_on?(letter, letter.tr("w", "m"))).to be(false)
    expect(goes_on?(letter, letter.split.first(36).join(" "))).to be(true)
    expect(goes_on?(letter, letter.split.reverse.join(" "))).to be(true)
    parts = {before: {"body" => letter, "subject" => "An hour"}, after: {"body" => letter, "subject" => ""}}
    expect(goes_on?(**parts)).to be(false)
    expect(goes_on?(**parts, after: {"body" => letter})).to be(false)
  end
end
