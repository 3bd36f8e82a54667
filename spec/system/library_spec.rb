# frozen_string_literal: true

RSpec.describe "the library of letters" do
  include AtTheDesk

  it "finds words in texts, keeps favourites first, begins with a starter, and archives" do
    signed_in_as "maren"
    visit "/letters"
    fill_in "Find a letter", with: "old fishing nets"
    expect(page).to have_css("tbody tr", text: "Good to meet you at the trade evening")
    expect(page).to have_no_css("tbody tr", text: "Winter letter")
    fill_in "Find a letter", with: ""
    click_button "Keep Winter letter at hand"
    expect(page).to have_css("tbody tr:nth-child(-n+3)", text: "Winter letter")
    click_button "Begin with…"
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
    accessible
  end

  it "keeps passages in languages, and pictures with where they are used" do
    signed_in_as "maren"
    visit "/passages"
    click_button "The measuring hour", match: :first
    click_button "German"
    expect(page).to have_css(".ProseMirror", text: "Die Messstunde kostet nichts.")
    click_button "Another language"
    within("[role=dialog]") { click_button "Welsh" }
    find("[aria-label='Text of the passage, welsh']").send_keys([:control, "a"], "Mae’r awr fesur am ddim.")
    saved
    visit "/passages"
    click_button "The measuring hour", match: :first
    click_button "Welsh"
    find("[aria-label='Text of the passage, welsh']").send_keys([:control, "a"], :backspace)
    saved
    find("[aria-label^='Back to']").click
    # Whoever goes back stays in the language they were in.
    expect(page).to have_css("[aria-label='Text of the passage, welsh']", text: "Mae’r awr fesur am ddim.")
    click_button "Versions"
    click_button "Show", match: :first
    expect(page).to have_css("dialog del, dialog ins", text: "Mae’r")
    within("dialog") { click_button "Close" }
    accessible
    click_link "Pictures"
    expect(page).to have_css("li", text: "Used in Spring from the workshop")
    accessible
  end
end
