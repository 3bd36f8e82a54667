# frozen_string_literal: true

require "vips"

# What the specs of the writing desk share.
module AtTheDesk
  def text = find("[aria-label='Text of the letter']")

  # Makes an empty letter and goes to it.
  def begin_letter(manner = "Empty, plain")
    sign_in_as_maren
    visit "/letters"
    press "n"
    click_button manner
    expect(page).to have_css("[aria-label='Text of the letter']")
  end

  def saved
    # What was typed a moment ago is on its way before it is told to be saved.
    expect(page).to have_no_css("[role=status]", text: "Saving…")
    expect(page).to have_css("[role=status]", text: /\ASaved/)
  end

  # The letter as the server has it.
  def stored
    page.evaluate_async_script("fetch(`/api/letters/${arguments[0]}`).then((answer) => answer.json()).then(arguments[1])", page.current_path[/\d+/])
  end

  def stored_words = stored["body"]["content"].map { |block| Core::Letters::Summary.of(block, Core::Fields::Standard.catalogue) }

  # What a colleague does on a page of her own.
  def as_petra
    path = page.current_path
    Capybara.using_session(:petra) do
      visit "/"
      if page.has_button?("Sign in", wait: 2)
        fill_in "email", with: "petra@ternandfallow.example"
        fill_in "password", with: "quiet-rooms-2026"
        click_button "Sign in"
        expect(page).to have_css("nav[aria-label=Places]")
      end
      visit path
      yield
    end
  end

  def click_words(words) = find("button", text: words, match: :first).click

  def put_in(block)
    click_button "Put in"
    within("[role=dialog]") { click_button block }
  end

  # Pastes as a browser does, without a clipboard.
  def paste(node, types)
    page.execute_script(<<~JS, node, types)
      const data = new DataTransfer()
      for (const [type, words] of Object.entries(arguments[1])) data.setData(type, words)
      arguments[0].dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
    JS
  end

  def axe_clean = expect(page).to(be_axe_clean.according_to(:wcag2a, :wcag2aa, :wcag21aa, :wcag22aa).excluding("iframe"))
end

RSpec.describe "writing a letter" do
  include AtTheDesk

  before { begin_letter }

  it "puts a field in from the menu, how it is written, and what stands there when it is empty" do
    text.send_keys("Dear ")
    click_button "Merge field"
    within("[role=dialog]") { click_button "Job title" }
    expect(page).to have_css(".ProseMirror .merged", text: "Job title")
    click_button "Field Job title"
    within("[role=dialog]") do
      expect(page).to have_text("among everybody with an address have nothing here")
      select "CAPITALS", from: "Written as"
      fill_in "When it is empty, write", with: "colleague"
      find_field("When it is empty, write").send_keys(:enter)
    end
    expect(page).to have_css(".ProseMirror .merged", text: "Job title as CAPITALS or “colleague”")
    saved
    visit page.current_path
    expect(page).to have_css(".ProseMirror .merged", text: "Job title as CAPITALS or “colleague”")
  end

  it "offers fields as one types, and marks a name that none has at once, with the nearest right one" do
    text.send_keys("Dear {{first n")
    expect(page).to have_css("[role=listbox] [role=option]", text: "First name")
    text.send_keys(:enter, ", from {{frist name}}")
    expect(page).to have_css(".ProseMirror .merged", text: "First name")
    expect(page).to have_css(".unknown-field", text: "{{frist name}}")
    saved
    click_words(/\AChecks/)
    expect(page).to have_text("There is no field “frist name”. Did you mean “first name”?")
    find("li", text: "frist name").click_button("Show it")
    page.document.synchronize { raise Capybara::ElementNotFound, "the name is not chosen" unless page.evaluate_script("getSelection().toString()") == "frist name" }
  end

  it "shows each person's own copy beside it as one types: at the desk, on a phone, as text, in inboxes" do
    text.send_keys("Dear {{first name|you}}, good day.")
    saved
    on_the_sheet { expect(page).to have_text(/Dear .+, good day\./) }
    first = find_button("Whose letter").text
    click_button "Somebody else"
    expect(page).to have_no_button("Whose letter", text: first)
    click_button "Phone"
    expect(page).to have_css("[data-testid=letter-frame][style*='360px']")
    click_button "Text"
    expect(page).to have_css("pre", text: "good day.")
    click_button "Inbox"
    expect(page).to have_text("There is no preview line, so inboxes show the first words of the letter.")
    click_button "Whose letter"
    fill_in "Whose letter", with: "pellworm"
    within("[role=dialog]") { click_words(/Pellworm/) }
    expect(page).to have_button("Whose letter", text: /Pellworm/)
  end

  it "takes emphasis, lists and links, and refuses a link that could run while it is typed" do
    text.send_keys("listen")
    text.send_keys([:control, "a"])
    click_button "Bold"
    click_button "Link"
    fill_in "Where the chosen words lead", with: "javascript:alert(1)"
    expect(page).to have_css("[role=alert]", text: "An address begins with https://")
    fill_in "Where the chosen words lead", with: "ternandfallow.example/listen"
    fill_in "Said when the pointer rests on it", with: "Two recordings"
    click_button "Set"
    expect(page).to have_css(".ProseMirror a[href='https://ternandfallow.example/listen']", text: "listen")
    saved
    on_the_sheet { expect(page).to have_css("a[href='https://ternandfallow.example/listen'][title='Two recordings'] strong", text: "listen") }
  end

  it "undoes and does again across saves" do
    text.send_keys("Dear all")
    saved
    click_button "Undo"
    expect(text).to have_no_text("Dear all")
    saved
    click_button "Redo"
    expect(text).to have_text("Dear all")
  end

  it "makes blocks with the stroke and the keyboard, and moves them with Alt and an arrow" do
    text.send_keys("First", :enter, "/head", :enter, "Second", :enter, "/list", :enter, "Third")
    saved
    expect(stored["body"]["content"].map { |block| block["type"] }).to eq(%w[paragraph heading bulletList])
    text.send_keys([:alt, :arrow_up], [:alt, :arrow_up])
    expect(page).to have_css(".ProseMirror > ul:first-child li", text: "Third")
    text.send_keys([:alt, :arrow_down])
    expect(page).to have_css(".ProseMirror > p:first-child", text: "First")
    find(".ProseMirror h2", text: "Second").hover
    click_button "This block"
    within("[role=dialog]") { click_button "Move up" }
    expect(page).to have_css(".ProseMirror > *:nth-child(2)", text: "Second")
  end

  it "takes what a word processor or a page puts on the clipboard, clean" do
    paste(text, "text/html" => "<p class=MsoNormal>Dear «First_Name»,<script>x</script></p><p><b>listen</b> <a href='javascript:x'>here</a></p><span style='display:none'>hidden</span>", "text/plain" => "x")
    expect(page).to have_css(".ProseMirror .merged", text: "First name")
    expect(page).to have_css(".ProseMirror strong", text: "listen")
    expect(text).to have_no_text("hidden")
    paste(text, "text/plain" => "For [company], twice")
    expect(page).to have_css(".ProseMirror .merged", text: "Company")
    saved
    expect(JSON.generate(stored["body"])).not_to match(/javascript|hidden|script/)
  end

  it "says clearly when a paste is too large, and goes on" do
    page.execute_script("window.big = '<p>' + 'word '.repeat(1000000) + '</p>'")
    page.execute_script("const data = new DataTransfer(); data.setData('text/html', window.big); arguments[0].dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))", text)
    expect(page).to have_css("[role=alert]", text: "a letter takes 512 kB")
    text.send_keys("Still here")
    saved
    expect(stored_words).to eq(["Still here"])
  end

  it "loses nothing when one leaves right after typing" do
    fill_in "Name of the letter", with: "Left in a hurry"
    text.send_keys("Every word of it")
    click_link "Letters", match: :first
    expect(page).to have_css("tr", text: "Left in a hurry")
    click_link "Left in a hurry"
    expect(text).to have_text("Every word of it")
  end

  it "loses nothing when the server is away: it says so, keeps the words here, and saves when it is back" do
    path = page.current_path
    page.driver.browser.network_conditions = {offline: true, latency: 0, throughput: 0}
    text.send_keys("Typed without a line")
    expect(page).to have_css("[role=alert]", text: "kept on this machine")
    expect(page.evaluate_script("Object.values(localStorage).join()")).to include("Typed without a line")
    page.driver.browser.delete_network_conditions
    saved
    expect(stored_words).to eq(["Typed without a line"])

    # A page that was shut before anything could be sent.
    page.execute_script("localStorage.setItem(`nimble.letter.${arguments[0]}`, JSON.stringify({version: #{stored["version"]}, draft: {body: #{JSON.generate(doc(para("Typed before the crash")))}}}))", stored["id"])
    visit path
    expect(text).to have_text("Typed before the crash")
    saved
    expect(stored_words).to eq(["Typed before the crash"])
  end

  it "tells two people in one letter of each other, overwrites neither, and keeps both texts" do
    text.send_keys("Mine")
    saved
    as_petra { expect(text).to have_text("Mine") }
    expect(page).to have_text("Petra Lund has it open too", wait: 15)
    page.driver.browser.network_conditions = {offline: true, latency: 0, throughput: 0}
    text.send_keys(" and more")
    expect(page).to have_css("[role=status]", text: "Not saved yet")
    as_petra do
      text.send_keys([:control, "a"], "Hers")
      saved
    end
    page.driver.browser.delete_network_conditions
    expect(page).to have_css("[role=alert]", text: "Somebody else changed this letter meanwhile.")
    click_button "Go on with theirs"
    expect(text).to have_text("Hers")
    click_button "Versions"
    expect(page).to have_text("set aside in a collision")
    click_button "Show", match: :first
    within("dialog") do
      expect(page).to have_css("del", text: "Mine")
      click_words(/Go back to version/)
    end
    expect(text).to have_text("Mine and more")
  end

  it "shows another page's words when nothing here is unsaved" do
    text.send_keys("First")
    saved
    as_petra do
      text.send_keys([:control, "a"], "From another page")
      saved
    end
    expect(text).to have_text("From another page", wait: 20)
  end
end

RSpec.describe "a designed letter" do
  include AtTheDesk

  let(:picture) do
    path = File.join(Dir.mktmpdir, "the room.png")
    (Vips::Image.black(900, 400, bands: 3) + [40, 110, 100]).cast(:uchar).copy(interpretation: :srgb).write_to_file(path)
    path
  end

  it "is written from nothing, sent as a test and read in the mail viewer" do
    begin_letter("Empty, designed")
    find("[aria-label=Subject]").send_keys("For {{first name|you}}")
    text.send_keys("Dear {{first name|you}},", :enter)
    put_in("Picture…")
    within("dialog") { attach_file("Picture file", picture, make_visible: true) }
    expect(page).to have_css(".ProseMirror figure img")
    click_button "Picture", exact: true
    find("[aria-label='What it shows']").send_keys("A room in {{city|town}}")
    find("[aria-label='What it shows']").send_keys(:escape)
    text.send_keys([:control, :end], :enter)
    put_in("Button")
    expect(page).to have_css(".letter-button", text: "Read on")
    click_button "Address of the button"
    find("[aria-label=Address]").send_keys("https://ternandfallow.example/a?c={{company|none}}")
    find("[aria-label=Address]").send_keys(:escape)
    saved
    on_the_sheet do
      expect(page).to have_css("img[alt^='A room in']")
      expect(page).to have_css("table.sheet a", text: "Read on")
    end
    axe_clean

    click_button "Send a test", match: :first
    click_button "Send the test"
    click_link "Read it", wait: 60
    expect(page).to have_css("h2", text: /\ATest: For /)
    within_frame(find("iframe[title='Letter as shown']")) { expect(page).to have_css("td a", text: "Read on") }
    click_button "Text"
    expect(page).to have_css("pre", text: /\[A room in .+\]\s+Read on: https:/m)
    click_button "Source"
    expect(page).to have_css("pre", text: "X-Nimble-Test: yes")
    axe_clean
  end

  it "keeps its words when it turns plain" do
    sign_in_as_maren
    visit "/letters"
    click_link "Spring from the workshop"
    on_the_sheet { expect(page).to have_css("table.sheet") }
    click_button "Plain"
    saved
    on_the_sheet do
      expect(page).to have_no_css("table.sheet")
      expect(page).to have_text(/New felt/)
      expect(page).to have_text("Listen to before and after")
    end
    click_button "Designed"
    saved
  end
end

RSpec.describe "a letter that speaks to some people differently" do
  include AtTheDesk

  it "asks in a sentence, says how many read which side, and shows it in the stack" do
    begin_letter
    find("[aria-label=Subject]").send_keys("A question")
    text.send_keys("Dear all", :enter)
    put_in("Only for some people")
    expect(page).to have_css(".letter-conditional")
    find(".letter-conditional .word").click
    within("dialog") do
      click_button "And…"
      within("[role=dialog]") do
        fill_in "What to ask about", with: "city is York"
        find_field("What to ask about").send_keys(:enter)
      end
      click_button "Shown to them"
    end
    expect(page).to have_css(".letter-conditional", text: /Shown to everyone who is in York · \d+ of \d+ read it/)
    find(".letter-side:first-child p").click
    find(".letter-side:first-child p").send_keys("near us")
    find(".letter-side:last-child p").click
    find(".letter-side:last-child p").send_keys("far away")
    saved
    expect(stored_words[1]).to eq("near us far away")
  end
end

RSpec.describe "the library of letters" do
  include AtTheDesk

  it "finds words in texts, keeps favourites first, begins with a starter, and archives" do
    sign_in_as_maren
    visit "/letters"
    fill_in "Find a letter", with: "old fishing nets"
    expect(page).to have_css("tbody tr", count: 2)
    fill_in "Find a letter", with: ""
    click_button "Keep Winter letter at hand"
    expect(page).to have_css("tbody tr:nth-child(-n+3)", text: "Winter letter")
    click_button "New letter"
    click_button "It has been a while"
    click_button "Begin with this one"
    expect(text).to have_text("Two things have changed here")
    click_button "More"
    click_button "Put into the archive"
    saved
    visit "/letters"
    expect(page).to have_css("tbody tr", text: "Winter letter")
    expect(page).to have_no_css("tbody tr", text: "What has changed since we last spoke")
    click_button "Archive"
    expect(page).to have_css("tbody tr", text: "What has changed since we last spoke")
    axe_clean
  end

  it "keeps passages in languages, and pictures with where they are used" do
    sign_in_as_maren
    visit "/passages"
    click_button "The measuring hour", match: :first
    click_button "German"
    expect(page).to have_css(".ProseMirror", text: "Die Messstunde kostet nichts.")
    click_button "Another language"
    within("[role=dialog]") { click_button "Welsh" }
    find("[aria-label='Text of the passage, welsh']").send_keys([:control, "a"], "Mae’r awr fesur am ddim.")
    expect(page).to have_css("[role=status]", text: /\ASaved/)
    visit "/passages"
    click_button "The measuring hour", match: :first
    expect(page).to have_button("Welsh")
    axe_clean
    click_link "Pictures"
    expect(page).to have_css("li", text: "Used in Spring from the workshop")
    axe_clean
  end
end
