# frozen_string_literal: true

RSpec.describe "picking people" do
  before do
    sign_in_as_maren
    visit "/people"
    page.execute_script("sessionStorage.clear()")
    visit "/people"
  end

  def matching = find("p[aria-live=polite]").text[/\A[\d,]+/].delete(",").to_i

  def everybody = @everybody ||= matching

  def choose(label, *words)
    choose_in_sentence(label[:with], label[:field])
    within("[role=dialog]") { words.each { |word| check word, exact: true } }
    find("h1").click
  end

  it "reads as a sentence, and each part moves the count" do
    expect(page).to have_text("records")
    all = everybody
    choose({with: "And…", field: "Standing"}, "lead")
    expect(page).to have_css("[aria-label=Condition]", text: "Everyone who is a lead")
    expect(page).to have_text("match · not saved")
    leads = matching
    choose({with: "Or…", field: "Standing"}, "client")
    expect(page).to have_css("[aria-label=Condition]", text: "is a lead× or is a client")
    expect(page).to have_no_css("p[aria-live=polite]", text: /\A#{leads} /)
    both = matching
    choose({with: "But not…", field: "Tag"}, "press")
    expect(page).to have_css("[aria-label=Condition]", text: "but not if one is tagged press")
    expect(page).to have_no_css("p[aria-live=polite]", text: /\A#{both} /)

    expect([all, leads, both, matching]).to satisfy("grow with or, shrink with but not") { |everyone, some, more, fewer| everyone > some && more > some && fewer < more }
    find("button[aria-label='Take out: person.tags']").click
    expect(page).to have_css("p[aria-live=polite]", text: /\A#{both} /)
  end

  it "asks about what people did, and turns it round" do
    choose_in_sentence("And…", "opened a letter")
    expect(page).to have_css("[aria-label=Condition]", text: "has opened any letter in the last 90 days")
    opened = matching
    click_button "Did or did not"
    within("[role=dialog]") { click_button "has not opened" }
    expect(page).to have_css("[aria-label=Condition]", text: "has not opened any letter")
    expect(page).to have_no_css("p[aria-live=polite]", text: /\A#{opened} /)
    click_button "Within 90 days"
    within("[role=dialog]") { click_button "365 days" }
    expect(page).to have_css("[aria-label=Condition]", text: "in the last 365 days")
  end

  it "says whom to mean before everybody is written to" do
    expect(page).to have_button("Write to them…", disabled: true)
    find("tbody tr:first-child input[type=checkbox]").check
    expect(page).to have_button("Write to these 1…", disabled: false)
  end

  it "keeps the sentence over a look at somebody's record, and uses a saved filter" do
    select "Restaurant leads", from: "Saved filters"
    expect(page).to have_text("saved as Restaurant leads")
    count = matching
    find("tbody a", match: :first).click
    expect(page).to have_css("section[aria-label=History]")
    page.go_back
    expect(page).to have_css("[aria-label=Condition]", text: "whose company type is restaurant")
    expect(page).to have_css("p[aria-live=polite]", text: /\A#{count} /)
  end

  it "finds by a few letters, without accents, and says when nobody is there" do
    fill_in "Quick search", with: "manelokke zoe"
    expect(page).to have_css("p[aria-live=polite]", text: "found in these")
    fill_in "Quick search", with: "nobody of this name at all"
    expect(page).to have_text("Nobody matches this.")
    click_button "Show everybody"
    expect(page).to have_css("tbody tr")
  end

  it "keeps what was typed when a record cannot be made" do
    press "n"
    within("dialog") do
      fill_in "First name", with: "Odd"
      fill_in "Address", with: "not an address"
      click_button "Add person"
      expect(page).to have_css("[role=alert]", text: "This does not look like an address.")
      expect(page).to have_field("First name", with: "Odd")
      click_button "Not now"
    end
    expect(page).to have_no_css("dialog")
  end
end
