# frozen_string_literal: true

require "stringio"

RSpec.describe "writing a letter" do
  let(:maren) { make_account }
  let(:petra) { make_account(name: "Petra Lund") }
  let(:letter) { by(maren).make(name: "A word", body: doc(para("first words"))) }

  def by(account, at = now) = Work::WriteLetter.new(moment(at, account: account))

  def versions = Records::LetterVersion.where(letter_id: letter.id).order(:number).all

  it "keeps what one colleague types within ten minutes as one version, and begins another after that or for another colleague" do
    by(maren, now + 60).change(letter, {version: 1, body: doc(para("second words"))})
    by(maren, now + 700).change(letter, {version: 2, body: doc(para("third words"))})
    by(petra, now + 710).change(letter, {version: 3, body: doc(para("fourth words"))})

    expect(versions.map { |one| [one.number, one.account_id, one.content["body"]["content"][0]["content"][0]["text"]] })
      .to eq([[1, maren.id, "second words"], [2, maren.id, "third words"], [3, petra.id, "fourth words"]])
  end

  it "goes back to a version, and the way back is a version too" do
    by(maren, now + 700).change(letter, {version: 1, manner: "designed", subject: doc(para("Another"))})
    by(petra, now + 800).restore(letter, versions.first, number: 2)

    expect([letter.refresh.manner, letter.document(:subject).empty?, letter.name]).to eq(["plain", true, "A word"])
    expect(versions.map(&:kind)).to eq(%w[typed typed restored])
  end

  it "overwrites nobody: the second writer hears of it, and either text stays" do
    by(petra, now + 5).change(letter, {version: 1, body: doc(para("hers"))})
    stale = Records::Letter[letter.id]

    expect { by(maren, now + 6).change(stale, {version: 1, body: doc(para("his"))}) }.to raise_error(Conflict) { |error|
      expect(error.code).to eq(:changed_meanwhile)
    }
    by(maren, now + 7).set_aside(letter.refresh, {body: doc(para("his"))})
    expect(letter.refresh.document(:body).summary).to eq("hers")
    expect(versions.last).to have_attributes(kind: "set_aside", content: include("body" => doc(para("his"))))
  end

  it "survives ten tabs on one letter: each save is whole, and only those on the newest version count" do
    outcomes = 10.times.map do |n|
      Work::WriteLetter.new(moment(now + n, account: maren)).change(
        Records::Letter[letter.id],
        {version: 1, body: doc(para("tab #{n}"))}
      ) && :saved
    rescue Conflict
      :told
    end

    expect(outcomes.tally).to eq(saved: 1, told: 9)
    expect(letter.refresh.document(:body).summary).to eq("tab 0")
  end

  it "compares two versions word by word" do
    by(maren, now + 700).change(letter, {version: 1, body: doc(para("first kind words")), name: "Another word"})
    parts = Work::CompareVersions.call(*versions.map { |one| one.content.transform_keys(&:to_sym) }, moment.catalogue)

    expect(parts.map { |part| part[:part] }).to eq(%w[name body])
    expect(parts.last[:pieces]).to eq([{kind: "same", text: "first "}, {kind: "new", text: "kind "}, {kind: "same", text: "words"}])
  end

  it "copies with everything that goes with it" do
    Work::TakeAttachment.new(letter, moment).call(StringIO.new("%PDF-1.4"), name: "page.pdf")
    copy = by(petra).copy(letter)

    expect(copy).to have_attributes(name: "A word, copy", account_id: petra.id, body: letter.body)
    expect(copy.attachments.map(&:name)).to eq(["page.pdf"])
  end

  it "refuses pictures and passages that are not there, languages and manners that are none, and an empty name" do
    picture = {"type" => "picture", "attrs" => {"picture_id" => 99_999}}

    {
      {body: doc(picture)} => :picture_gone,
      {body: doc({"type" => "passage", "attrs" => {"passage_id" => 99_999}})} => :passage_gone,
      {manner: "loud"} => :invalid,
      {language: "xx"} => :invalid,
      {name: " \n"} => :invalid
    }.each do |input, code|
      expect { by(maren).change(letter, {version: 1, **input}) }.to raise_error(Invalid) { |error| expect(error.code).to eq(code) }
    end
    expect(letter.refresh.version).to eq(1)
  end

  it "is found by words in its name and text" do
    letter.update(subject: doc(para("Zoë’s felt")))

    expect(Records::Letter.where(Sequel.ilike(:words, "%zoe%")).select_map(:id)).to eq([letter.id])
  end
end
