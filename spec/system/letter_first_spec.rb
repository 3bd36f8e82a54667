# frozen_string_literal: true

# The simplest job is the shortest: one letter to these people, now.
RSpec.describe "one letter" do
  # Counts what a person does: a click, a field completed, a command key. Typing is free; a run of Tabs counts as one.
  def move = @moves = @moves.to_i + 1

  def click(...) = move && click_button(...)

  def key(*keys)
    # So soon after typing a letter by itself is no command.
    expect(page).to have_no_css("html[data-typing]") if keys.one? && keys.first.is_a?(String)
    move
    held(page.driver.browser.action, keys).perform
  end

  def held(action, keys)
    down = keys.grep(Symbol) & %i[control alt shift]
    down.each { |one| action.key_down(one) }
    action.send_keys(keys.last)
    down.each { |one| action.key_up(one) }
    action
  end

  # Into what has the cursor.
  def complete(words, ending = nil)
    move
    page.driver.browser.action.send_keys(words).perform
    page.driver.browser.action.send_keys(ending).perform if ending
  end

  def reader = find("aside[aria-label='Looking at it'] [aria-label='Whose letter']").text

  # The next of those who get it, and not the one before.
  def next_reader
    before = reader
    yield
    expect(page).to have_no_css("[aria-label='Whose letter']", exact_text: before)
  end

  # Reads how many go, and sends them.
  def sends = /\ASend (the other )?\d+ letters\z/

  def in_the_subject = expect(page).to have_css("[aria-label='Subject'].ProseMirror-focused")

  def sent = expect(page).to have_css("[role=status]", text: /\ASent\. Nothing leaves for another \d+ seconds?\./)

  def write_it
    in_the_subject
    complete("A quieter spring at {{company|your place}}?", :enter)
    expect(page).to have_css("[aria-label='Text of the letter'].ProseMirror-focused")
    complete("Dear {{first name|there}}, would you like to hear your own room with less noise?")
    expect(page).to have_css("[role=status]", text: /\ASaved/)
  end

  before { signed_in_as "maren" }

  it "to the leads of one city takes at most twelve moves with the mouse" do
    visit "/"
    move && find("nav a", text: "People").click
    click "And…"
    complete("leads in York", :enter)
    click "Write to them…"
    write_it
    2.times { next_reader { click "Somebody else" } }
    click "Send a test"
    expect(page).to have_css("[role=status]", text: /Test to maren@/)
    count = find("button", text: /\ASend to \d+…/).text[/\d+/]
    click "Send to #{count}…"
    expect(page).to have_css("dialog", text: /\d+ letters to \d+ people from maren@/)
    accessible
    move && within("dialog") { find("button", text: sends).click }
    sent
    expect(@moves).to be <= 12
    # It is found by its name, and leaves by itself.
    expect(page).to have_css("[aria-label='Parts of the sequence'] a", text: "Members #{count}", wait: 40)
    visit "/sequences"
    expect(page).to have_link("A quieter spring at [company]?")
  end

  it "to the leads of one city takes at most twelve moves with keys alone" do
    visit "/"
    find("main h1")
    key(:control, "k")
    complete("go to people", :enter)
    find("main h1", text: "People")
    expect(page).to have_css("[aria-label='And…']")
    key("a")
    complete("leads in York", :enter)
    expect(page).to have_button("Write to them…", disabled: false)
    key("w")
    write_it
    2.times { next_reader { key(:alt, "j") } }
    key(:alt, "t")
    expect(page).to have_css("[role=status]", text: /Test to maren@/)
    key(:control, :enter)
    expect(page).to have_css("dialog button:focus", text: /\ASend/)
    key(:enter)
    sent
    expect(@moves).to be <= 12
    # And one takes it back: it is the draft it was.
    click_button "Undo sending"
    expect(page).to have_button(text: /\ASend to \d+…/)
    expect(page).to have_no_text("Nothing leaves for another")
  end

  it "to those who stayed quiet takes six" do
    visit "/sequences/#{sequence_named("Quieter dining rooms")}/results"
    move && find("button", text: /\AWrite to the \d+ quiet/, match: :first).click
    write_it
    key(:control, :enter)
    expect(page).to have_css("dialog button:focus", text: /\ASend/)
    key(:enter)
    sent
    expect(@moves).to be <= 6
    click_button "Undo sending"
  end

  it "to one person takes five" do
    person = ask(:post, "/api/people/search", {words: "Hollinrake", limit: 1})["people"].first
    visit "/people/#{person["id"]}"
    click "Write to #{person["name"].split.first}…"
    write_it
    key(:control, :enter)
    expect(page).to have_css("dialog button:focus", text: "Send 1 letter")
    key(:enter)
    sent
    expect(@moves).to be <= 5
    click_button "Undo sending"
  end

  describe "that is ready to go" do
    let(:york) { {all: {standing: "lead", city: "York"}.map { |key, word| {field: "person.#{key}", is: "one_of", value: [word]} }} }
    let(:letter) { make_letter(manner: "plain").tap { |id| ask(:patch, "/api/letters/#{id}", {version: 1, **words}) } }
    let(:words) { {subject: said("A quieter spring"), body: said("Would you like to hear your own room with less noise?")} }
    let(:sequence) { ask(:post, "/api/sequences", {audience: {condition: york}, letter: {letter_id: letter}})["id"] }

    def said(words) = {type: "doc", content: [{type: "paragraph", content: [{type: "text", text: words}]}]}

    def reading_back
      visit "/sequences/#{sequence}"
      click_button(text: /\ASend to \d+…/)
      expect(page).to have_css("dialog button:focus", text: sends)
    end

    def send_it = within("dialog") { click_button(text: sends) }

    it "is sent once, and each is told, when a colleague sends it from the same draft" do
      reading_back
      petra = OverTheApi.as("petra")
      ready = petra.ask(:get, "/api/sequences/#{sequence}/ready")
      read_back = ready.slice("letters", "gaps", "joining", "seen")
      version = petra.ask(:get, "/api/sequences/#{sequence}")["version"]
      petra.ask(:post, "/api/sequences/#{sequence}/start", {**read_back, version: version, undo: true})
      send_it
      sent
      click_button "Undo sending"
      expect(page).to have_button(text: /\ASend to \d+…/)
    end

    it "stays as it was read back while the connection is lost, and goes once it is there" do
      reading_back
      page.driver.browser.network_conditions = {offline: true, latency: 0, throughput: 0}
      begin
        send_it
        expect(page).to have_css("dialog [role=alert]", text: "does not answer")
      ensure
        page.driver.browser.delete_network_conditions
      end
      send_it
      sent
      click_button "Undo sending"
    end

    it "is written to somebody from the library, itself or as a copy" do
      visit "/letters/#{letter}"
      click_button "Write this to…"
      expect(page).to have_css("[aria-label='To whom']", text: "choose whom")
      expect(page).to have_css("[aria-label=Subject]", text: "A quieter spring")
      expect(ask(:get, "/api/letters/#{letter}")["used_in"].size).to eq(1)
      visit "/letters/#{letter}"
      click_button "Write this to…"
      click_button "A copy of it"
      expect(page).to have_css("[aria-label='To whom']", text: "choose whom")
      expect(page).to have_css("[aria-label=Subject]", text: "A quieter spring")
      expect(ask(:get, "/api/letters/#{letter}")["used_in"].size).to eq(1)
    end

    it "lets everybody at whom it goes to and when" do
      visit "/sequences/#{sequence}"
      click_button "When it leaves"
      click_button "In hours of the day"
      accessible
      find("body").send_keys(:escape)
      find("[aria-label='To whom']").send_keys(:enter)
      expect(page).to have_css("section[aria-label='To whom']", text: "Who a letter would reach")
      accessible
      find("section[aria-label='To whom'] :focus").send_keys(:escape)
      expect(page).to have_css("[aria-label='To whom']:focus")
      accessible
    end
  end
end
