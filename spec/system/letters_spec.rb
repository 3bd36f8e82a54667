# frozen_string_literal: true

RSpec.describe "writing a letter" do
  before do
    sign_in_as_maren
    visit "/letters"
    press "n"
    expect(page).to have_css("[aria-label='Text of the letter']")
  end

  let(:text) { find("[aria-label='Text of the letter']") }
  let(:sheet) { find("article[aria-label='The letter']") }

  def saved = expect(page).to have_css("[role=status]", text: /\ASaved/)

  it "puts a field in from the menu, and what stands there when it is empty" do
    text.send_keys("Dear ")
    click_button "Merge field"
    within("[role=dialog]") { click_button "Job title" }
    expect(page).to have_css(".ProseMirror .merged", text: "Job title")
    click_button "Field Job title"
    fill_in "When it is empty, write", with: "colleague"
    find_field("When it is empty, write").send_keys(:enter)
    expect(page).to have_css(".ProseMirror .merged", text: "Job title or “colleague”")
    saved
    visit page.current_path
    expect(page).to have_css(".ProseMirror .merged", text: "Job title or “colleague”")
  end

  it "shows each person's own copy beside it as one types" do
    text.send_keys("Dear {{first name|you}}, good day.")
    saved
    expect(sheet).to have_text(/Dear .+, good day\./)
    first = find("strong", text: /\w+ \w+/, match: :first).text
    click_button "Somebody else"
    expect(page).to have_no_css("p strong", text: first)
  end

  it "takes emphasis, lists and links, and refuses a link that could run" do
    text.send_keys("listen")
    text.send_keys([:control, "a"])
    click_button "Bold"
    click_button "Link"
    fill_in "Where the chosen words lead", with: "https://ternandfallow.example/listen"
    find_field("Where the chosen words lead").send_keys(:enter)
    expect(page).to have_css(".ProseMirror a[href='https://ternandfallow.example/listen'] strong, .ProseMirror strong a", text: "listen")
    saved
    expect(sheet).to have_link("listen", href: "https://ternandfallow.example/listen")
  end

  it "undoes and does again" do
    text.send_keys("Dear all")
    saved
    click_button "Undo"
    expect(text).to have_no_text("Dear all")
    click_button "Redo"
    expect(text).to have_text("Dear all")
  end

  it "loses nothing when one leaves right after typing" do
    fill_in "Name of the letter", with: "Left in a hurry"
    text.send_keys("Every word of it")
    click_link "Letters", match: :first
    expect(page).to have_css("tr", text: "Left in a hurry")
    click_link "Left in a hurry"
    expect(text).to have_text("Every word of it")
  end

  it "keeps what cannot be saved yet on the page, and says why" do
    text.send_keys("Dear {{nobody knows}}")
    expect(page).to have_css("[role=alert]", text: "There is no field “nobody knows”.")
    expect(page).to have_css("[role=status]", text: "Not saved")
    expect(text).to have_text("{{nobody knows}}")
  end
end
