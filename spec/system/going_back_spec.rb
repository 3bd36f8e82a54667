# frozen_string_literal: true

RSpec.describe "going back on the page" do
  before { signed_in_as "maren" }

  # How far down the screen was scrolled, in pixels.
  def scrolled = page.evaluate_script("document.getElementById('screen').scrollTop").round

  def scroll_down(pixels)
    page.execute_script("document.getElementById('screen').scrollTop = arguments[0]", pixels)
    page.evaluate_async_script("requestAnimationFrame(() => requestAnimationFrame(arguments[0]))")
  end

  it "finds companies where they were left: the search, the page, and how far down; a record begins at its top" do
    visit "/companies"
    within("main") { click_button "Next" }
    expect(page).to have_current_path("/companies?page=1")
    expect(page).to have_text("61 to")
    scroll_down(400)
    find("tbody tr:nth-child(14) td:first-child a").click
    expect(page).to have_css("h2", text: "Deals")
    expect(scrolled).to eq(0)
    page.go_back
    expect(page).to have_text("61 to")
    expect(page).to have_css("tbody a")
    expect(scrolled).to eq(400)
    fill_in "Find a company", with: "copper"
    expect(page).to have_current_path("/companies?q=copper")
    within("nav[aria-label=People]") { click_link "Companies" }
    expect(page).to have_field("Find a company", with: "")
  end

  it "finds letters with what was asked of them, which can be sent to a colleague too" do
    visit "/letters?q=check&show=archive"
    expect(page).to have_field("Find a letter", with: "check")
    expect(page).to have_css("button[aria-pressed=true]", text: "Archive")
    click_button "In use"
    expect(page).to have_current_path("/letters?q=check")
    find("tbody a", match: :first).click
    expect(page).to have_css(".ProseMirror")
    page.go_back
    expect(page).to have_field("Find a letter", with: "check")
  end

  it "finds the reply that was open, and a conversion that was half typed" do
    visit "/replies"
    show_replies "All"
    find("button[aria-current]:nth-child(4)").click
    open = find("section[aria-label='The reply'] h2").text
    click_link open
    expect(page).to have_css("h1", text: open)
    page.go_back
    expect(page).to have_css("section[aria-label='The reply'] h2", text: open)
    expect(page).to have_css("[aria-label='Sorted as'] [aria-pressed=true]", text: "All")
    show_replies "Interested"
    click_button "Record a conversion…"
    fill_in "What it brought", with: "a second visit"
    send_keys(:escape)
    expect(page).to have_no_css("dialog")
    click_button "Record a conversion…"
    expect(page).to have_field("What it brought", with: "a second visit")
  end
end
