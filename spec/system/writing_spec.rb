# frozen_string_literal: true

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
    page.document.synchronize do
      raise Capybara::ElementNotFound, "the name is not chosen" unless page.evaluate_script("getSelection().toString()") == "frist name"
    end
  end

  it "takes the highlighted field by Enter and by Tab, in the subject as in the text" do
    {"Subject" => :enter, "Preview line" => :tab, "Text of the letter" => :tab}.each do |label, key|
      field = find("[aria-label='#{label}']")
      field.send_keys("{{comp")
      expect(page).to have_css("[role=listbox] [aria-selected=true]", text: /\ACompany$/)
      field.send_keys(key)
      expect(field).to have_css(".merged", text: "Company")
      expect(page).to have_no_css("[role=listbox]")
    end
    # Tab leads past the chips; they are reached with the arrows and opened with Enter.
    find("[aria-label=Subject]").send_keys(:tab)
    expect(page).to have_css("[aria-label='Preview line']:focus")
    find("[aria-label=Subject]").send_keys(:home, :right, :left)
    page.active_element.send_keys(:enter)
    fill_in "When it is empty, write", with: "your firm"
    page.active_element.send_keys(:enter)
    page.active_element.send_keys("!")
    expect(find("[aria-label=Subject]").text).to include("Company or “your firm”!")
    # Without a menu Enter makes no second line of a single one.
    find("[aria-label=Subject]").send_keys(:enter, "rest")
    expect(find("[aria-label=Subject]")).to have_css("p", count: 1)
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
    on_the_sheet do
      expect(page).to have_css("a[href='https://ternandfallow.example/listen'][title='Two recordings'] strong", text: "listen")
    end
  end

  it "leads where a field of the reader says, and refuses a name that is none" do
    text.send_keys("menu", [:control, "a"])
    click_button "Link"
    fill_in "Where the chosen words lead", with: "house.example/?who={{first name}}&x={{no such thing}}"
    click_button "Set"
    expect(page).to have_css("[role=alert]", text: "no such thing")
    click_button "Link"
    fill_in "Where the chosen words lead", with: "house.example/?who={{first name}}"
    click_button "Set"
    saved
    on_the_sheet { expect(page).to have_css("a[href^='https://house.example/?who=']:not([href*='{'])", text: "menu") }
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

  it "steps back through what was kept when the page was opened anew, and forth again" do
    text.send_keys("Dear all, what was written here first stays within reach.")
    saved
    text.send_keys([:control, "a"], :backspace)
    saved
    visit page.current_path
    expect(text).to have_no_text("Dear all")
    find("[aria-label^='Back to']").click
    expect(page).to have_css("[aria-label='Text of the letter']", text: "Dear all, what was written")
    click_button "Versions"
    expect(page).to have_css("[role=status]", text: "You went back to")
    accessible
    click_button "Return to the newest"
    expect(page).to have_css("[aria-label^='Forth to'][disabled]")
    expect(text).to have_no_text("Dear all")
    # The letter is shown anew; what is beside it stays, and no other page has it open.
    expect(page).to have_button("Versions") { |button| button["aria-pressed"] == "true" }
    expect(page).to have_no_text("another of your tabs")
  end

  it "makes blocks with the stroke and the keyboard, and moves them with Alt and an arrow" do
    text.send_keys("First", :enter, "/head", :enter, "Second", :enter, "/list", :enter, "Third")
    saved
    expect(stored["body"]["content"].map { |block| block["type"] }).to eq(%w[paragraph heading bulletList])
    text.send_keys([:alt, :arrow_up], [:alt, :arrow_up])
    expect(page).to have_css(".ProseMirror > ul:first-child li", text: "Third")
    text.send_keys([:alt, :arrow_down])
    expect(page).to have_css(".ProseMirror > p:first-child", text: "First")
    find(".ProseMirror h2", text: "Second").click
    click_button "This block"
    within("[role=dialog]") { click_button "Move up" }
    expect(page).to have_css(".ProseMirror > *:nth-child(2)", text: "Second")
  end

  it "takes what a word processor or a page puts on the clipboard, clean" do
    paste(
      text,
      "text/html" =>
        "<p class=MsoNormal>Dear «First_Name»,<script>x</script></p><p><b>listen</b> <a href='javascript:x'>here</a></p>" \
        "<span style='display:none'>hidden</span>",
      "text/plain" => "x"
    )
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
    page.execute_script(
      "const data = new DataTransfer(); data.setData('text/html', window.big); arguments[0].dispatchEvent(new ClipboardEvent('paste', { " \
      "clipboardData: data, bubbles: true, cancelable: true }))",
      text
    )
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
    page.execute_script(
      "localStorage.setItem(`nimble.letter.${arguments[0]}`, JSON.stringify({version: #{stored["version"]}, draft: {body: " \
      "#{JSON.generate(doc(para("Typed before the crash")))}}}))",
      stored["id"]
    )
    visit path
    expect(text).to have_text("Typed before the crash")
    saved
    expect(stored_words).to eq(["Typed before the crash"])
  end

  it "tells two people in one letter of each other, overwrites neither, and keeps both texts" do
    text.send_keys("Mine")
    saved
    as_petra { expect(text).to have_text("Mine") }
    expect(page).to have_text("Petra Lund has it open too")
    page.driver.browser.network_conditions = {offline: true, latency: 0, throughput: 0}
    text.send_keys(" and more")
    expect(page).to have_css("[role=status]", text: "Not saved yet")
    as_petra do
      text.send_keys([:control, "a"], "Hers")
      saved
    end
    page.driver.browser.delete_network_conditions
    expect(page).to have_css("[role=alert]", text: "Somebody else changed this letter at the same place.")
    expect(all("[role=alert] dd").map(&:text)).to eq(["Hers", "Mine and more"])
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

  it "puts together what two people write at opposite ends of one letter" do
    text.send_keys("Top", :enter, "Middle", :enter, "Bottom")
    saved
    as_petra { expect(text).to have_text("Bottom") }
    page.driver.browser.network_conditions = {offline: true, latency: 0, throughput: 0}
    text.send_keys(" of mine")
    expect(page).to have_css("[role=status]", text: "Not saved yet")
    as_petra do
      text.send_keys([:control, :home], "Her ")
      saved
    end
    page.driver.browser.delete_network_conditions
    expect(text).to have_text("Her Top")
    expect(text).to have_text("Bottom of mine")
    # One's own place in the text is where it was.
    text.send_keys(", indeed")
    saved
    expect(stored_words).to eq(["Her Top", "Middle", "Bottom of mine, indeed"])
    as_petra { expect(text).to have_text("Bottom of mine, indeed") }
  end

  it "shows another page's words when nothing here is unsaved" do
    text.send_keys("First")
    saved
    as_petra do
      text.send_keys([:control, "a"], "From another page")
      saved
    end
    expect(text).to have_text("From another page")
  end
end
