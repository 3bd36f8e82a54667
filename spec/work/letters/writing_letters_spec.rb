# frozen_string_literal: true

require "stringio"

RSpec.describe "writing a letter" do
  let(:maren) { make_account }
  let(:petra) { make_account(name: "Petra Lund") }
  let(:letter) { by(maren).make(name: "A word", body: doc(para("first words"))) }

  def by(account, at = now) = Work::WriteLetter.new(moment(at, account: account))

  def versions = Records::LetterVersion.where(letter_id: letter.id).order(:number).all

  def texts = versions.map { |one| Core::Letters::Document.new(one.content["body"]).summary }

  # By the clock on the wall; the practice clock stands still while one writes.
  def wait(seconds)
    earlier = ->(column) { Sequel.date_sub(column, seconds: seconds) }
    Records::LetterVersion.where(letter_id: letter.id).update(begun_at: earlier.call(:begun_at), left_at: earlier.call(:left_at))
  end

  def type(account, text) = by(account).change(letter.refresh, {version: letter.version, body: doc(para(text))})

  it "keeps what one colleague types as one version, and begins another after a pause or for another colleague" do
    type(maren, "second words")
    wait(Core::Letters::VersionRule::PAUSE_SECONDS)
    type(maren, "third words")
    type(petra, "fourth words")
    10.times do |n|
      wait(100)
      type(petra, "#{n} words")
    end

    expect(versions.first(3).map(&:account_id)).to eq([maren.id, maren.id, petra.id])
    expect(texts).to eq(["second words", "third words", "4 words", "9 words"])
  end

  it "keeps what was there before much is taken away, though it was written a moment ago" do
    written = (1..40).map { |n| "word#{n}" }.join(" ")
    type(maren, written)
    type(maren, "")
    expect(texts).to eq([written, ""])

    by(maren).restore(letter.refresh, versions.first, number: letter.version)
    expect(letter.refresh.document(:body).summary).to eq(written)
    by(maren).restore(letter.refresh, versions[1], number: letter.version)
    expect([letter.refresh.document(:body).summary, texts.first(2)]).to eq(["", [written, ""]])
  end

  it "is stepped through, back and forth, whoever opens it, and what is typed then comes after" do
    step = lambda do |way|
      versions = Work::Versions.new(letter.refresh, moment)
      number = versions.places.fetch(way) or next
      by(petra).restore(letter, versions.find!(number), number: letter.version)
      letter.refresh.document(:body).summary
    end
    %w[two three four].each do |word|
      wait(700)
      type(maren, "#{word} words")
    end
    expect([step.call(:forward), step.call(:back), step.call(:back), step.call(:back), step.call(:back)]).to eq(
      [nil, "three words", "two words", "first words", nil]
    )
    expect([step.call(:forward), step.call(:newest), step.call(:forward)]).to eq(["two words", "four words", nil])
    # Going to and fro is one version, and takes the place of none.
    expect(versions.map(&:kind)).to eq(%w[typed typed typed typed restored])

    step.call(:back)
    type(petra, "three other words")
    expect([step.call(:back), step.call(:back), step.call(:back)]).to eq(["three words", "four words", "three words"])
    expect(step.call(:newest)).to eq("three other words")
  end

  it "keeps what a letter was before anything was kept of it" do
    Records::LetterVersion.where(letter_id: letter.id).delete
    type(petra, "other words")
    expect(texts).to eq(["first words", "other words"])
    expect(versions.map(&:account_id)).to eq([maren.id, petra.id])
  end

  it "goes back to a version, and the way back is a version too" do
    letter
    wait(700)
    by(maren).change(letter, {version: 1, manner: "designed", subject: doc(para("Another"))})
    by(petra).restore(letter, versions.first, number: 2)

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
    letter
    wait(700)
    by(maren, now + 700).change(letter, {version: 1, body: doc(para("first kind words")), name: "Another word"})
    parts = Work::CompareVersions.call(*versions.map(&:content), moment.catalogue)

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
