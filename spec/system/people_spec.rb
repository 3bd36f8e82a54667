# frozen_string_literal: true

RSpec.describe "picking people" do
  before do
    signed_in_as "maren"
    visit "/people"
    expect(page).to have_css("[role=row][aria-rowindex='2']")
  end

  def matching = find("p[aria-live=polite]").text[/\A[\d,]+/].delete(",").to_i

  def everybody = @everybody ||= matching

  def choose(label, *words)
    choose_in_sentence(label[:with], label[:field])
    within("[role=dialog]") { words.each { |word| check word, exact: true } }
    find("h1").click
  end

  def rows = all("[role=rowgroup] [role=row]")

  def tick(index) = find("[role=row][aria-rowindex='#{index + 2}'] input").click

  def condition = find("[aria-label=Condition]")

  it "reads as a sentence, and each part moves the count" do
    all = everybody
    choose({with: "And…", field: "Standing"}, "lead")
    expect(page).to have_css("[aria-label=Condition]", text: "Everyone who is a lead")
    expect(page).to have_text("match · not saved")
    leads = matching
    choose({with: "Or…", field: "Standing"}, "client")
    expect(page).to have_css("[aria-label=Condition]", text: /is a lead.*or is a client/)
    expect(page).to have_no_css("p[aria-live=polite]", text: /\A#{leads} /)
    both = matching
    choose({with: "But not…", field: "Tag"}, "press")
    expect(page).to have_no_css("p[aria-live=polite]", text: /\A#{both} /)

    expect([all, leads, both, matching]).to satisfy("grow with or, shrink with but not") { |everyone, some, more, fewer|
      everyone > some && more > some && fewer < more
    }
    click_button "Take out: Tag"
    expect(page).to have_css("p[aria-live=polite]", text: /\A#{both} /)
  end

  it "takes what is typed, and turns a test round" do
    click_button "And…"
    fill_in "What to ask about", with: "city is york or hull"
    find_field("What to ask about").send_keys(:enter)
    expect(page).to have_css("[aria-label=Condition]", text: "Everyone who is in York or Hull")
    expect(page).to have_no_css("[role=dialog]")
    expect(page).to have_text("match · not saved")
    some = matching
    click_button "How to ask about City"
    within("[role=dialog]") { click_button "not: turn into the opposite" }
    expect(page).to have_css("[aria-label=Condition]", text: "Everyone who is not in York or Hull")
    expect(page).to have_no_css("p[aria-live=polite]", text: /\A#{some} /)
  end

  it "asks about what people did, about deals and about sequences" do
    choose_in_sentence("And…", "opened a letter")
    expect(page).to have_css("[aria-label=Condition]", text: /opened any letter.*in the last 90 days/)
    opened = matching
    click_button "What they did, or did not"
    within("[role=dialog]") { click_button "has not opened", exact: true }
    expect(page).to have_css("[aria-label=Condition]", text: "has not opened any letter")
    expect(page).to have_no_css("p[aria-live=polite]", text: /\A#{opened} /)
    all(:button, "And…").last.click
    within("[role=dialog]") { click_button "Has a deal" }
    expect(page).to have_css("[aria-label=Condition]", text: "has at least")
    all(:button, "And…").last.click
    within("[role=dialog]") { click_button "is in a sequence", exact: true }
    expect(page).to have_css("[aria-label=Condition]", text: "is in any sequence")
  end

  it "says why somebody is in, with what the record says, beside the table" do
    choose({with: "And…", field: "Standing"}, "lead")
    expect(page).to have_text("match · not saved")
    find("[role=row][aria-rowindex='2']").click
    within("section[aria-label=Why]") { expect(page).to have_text("is a lead · lead") }
    click_button "Close this record"
    expect(page).to have_css("section[aria-label='Who a letter would reach']")
  end

  it "says whom to mean before everybody is written to" do
    expect(page).to have_button("Write to them…", disabled: true)
    tick(0)
    expect(page).to have_button("Write to these 1…", disabled: false)
  end

  it "chooses with shift and the keyboard, does something to many, and takes it back" do
    tick(0)
    find("[role=row][aria-rowindex='5'] input").click(:shift)
    expect(page).to have_css("p[aria-live=polite]", text: "4 chosen")
    find("[role=grid]").send_keys(:arrow_down, :space)
    click_button "Do with the people chosen"
    within("[role=dialog]") { click_button "Tag", exact: true }
    fill_in "Tags, with commas between", with: "chosen by hand"
    find(:button, text: /Do it for/).click
    expect(page).to have_css("[role=status]", text: /Tagged \d people chosen by hand/)
    choose({with: "And…", field: "Tag"}, "chosen by hand")
    expect(page).to have_css("p[aria-live=polite]", text: /\A[345] people match/)
    click_button "Undo"
    expect(page).to have_css("[role=status]", text: "Taken back")
    expect(page).to have_css("p[aria-live=polite]", text: /\A0 people match/)
  end

  it "chooses all that match, and keeps them as a list" do
    choose({with: "And…", field: "Standing"}, "partner")
    expect(page).to have_text("match · not saved")
    partners = matching
    click_button "Keep these as a list"
    fill_in "Name of the list", with: "Partners in May"
    click_button "Keep the list"
    expect(page).to have_no_css("dialog")
    visit "/lists"
    within("tr", text: "everyone who is a partner") do
      expect(find_field("Name of the list Partners in May").value).to eq("Partners in May")
      click_button partners.to_s
    end
    within("dialog", text: "#{partners} people") { click_button "Open in People" }
    expect(page).to have_css("p[aria-live=polite]", text: /\A#{partners} people match/)
    expect(page).to have_text("is on the list Partners in May")
  end

  it "does with the people behind a number what it does with people chosen in the table" do
    visit "/settings"
    within("tr", text: "After the trade evening") { find(:button, text: /records/).click }
    many = find("dialog", text: "people")[:innerText][/(\d+) people/, 1]
    within("dialog") { click_button "Do with the people chosen" }
    within("[role=dialog]") { click_button "Tag", exact: true }
    fill_in "Tags, with commas between", with: "seen behind a number"
    find(:button, text: /Do it for #{many} people/).click
    expect(page).to have_css("[role=status]", text: "Tagged #{many} people seen behind a number")
    click_button "Undo"
    expect(page).to have_css("[role=status]", text: "Taken back")
    within("tr", text: "After the trade evening") { find(:button, text: /records/).click }
    within("dialog") { click_button "Write to these #{many}…" }
    expect(page).to have_current_path(%r{\A/sequences/\d+})
    expect(page).to have_text("of #{many}")
  end

  it "shows other columns in another order, and remembers them" do
    click_button "Choose columns"
    within("[role=dialog]") { click_button "+ Birthday" }
    find("h1").click
    click_button "Birthday"
    expect(page).to have_css("[role=columnheader][aria-sort=ascending]", text: "Birthday")
    first = rows.first.text
    click_button "Birthday"
    expect(page).to have_css("[role=columnheader][aria-sort=descending]")
    expect(page).to have_no_css("[role=row][aria-rowindex='2']", exact_text: first)
    click_button "Birthday"
    click_button "Choose columns"
    within("[role=dialog]") { click_button "As it was at first" }
    expect(page).to have_no_css("[role=columnheader]", text: "Birthday")
  end

  it "begins another question at its first row" do
    all = everybody
    page.execute_script("document.querySelector('[role=grid]').scrollTop = 9000")
    expect(page).to have_no_css("[role=row][aria-rowindex='2']")
    choose({with: "And…", field: "Standing"}, "lead")
    expect(page).to have_text("match · not saved")
    expect(page).to have_css("[role=row][aria-rowindex='2']")
    expect(matching).to be < all
  end

  it "keeps the sentence over a look at somebody's record, and uses a saved filter" do
    click_button "Saved filters"
    within("[role=dialog]") { find(:button, text: /\ARestaurant leads/).click }
    expect(page).to have_text("saved as Restaurant leads")
    count = matching
    find("[role=row][aria-rowindex='2']").click
    click_link "Open the record"
    expect(page).to have_css("section[aria-label=History]")
    page.go_back
    expect(page).to have_css("[aria-label=Condition]", text: "whose company type is restaurant")
    expect(page).to have_css("p[aria-live=polite]", text: /\A#{count} /)
  end

  it "says what changing a filter would mean" do
    click_button "Saved filters"
    within("[role=dialog]") { find(:button, text: /\ARestaurant leads/).click }
    expect(page).to have_text("saved as Restaurant leads")
    choose({with: "And…", field: "City"}, "York")
    click_button "Save the change…"
    expect(page).to have_css("dialog", text: /would join.*would leave/)
    expect(page).to have_css("dialog", text: "Quieter dining rooms")
    leaving = find("dialog p", text: "would leave").all("button").last
    count = leaving.text
    leaving.click
    within("dialog", text: "Would leave") { expect(page).to have_text("#{count} people") }
  end

  it "finds by a few letters, without accents, and says when nobody is there" do
    fill_in "Quick search", with: "manelokke zoe"
    expect(page).to have_css("p[aria-live=polite]", text: "found")
    fill_in "Quick search", with: "nobody of this name at all"
    expect(page).to have_text("Nobody matches this.")
    click_button "show everybody"
    expect(page).to have_css("[role=row][aria-rowindex='2']")
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
