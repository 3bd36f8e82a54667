# frozen_string_literal: true

RSpec.describe "a running sequence" do
  include OnThePlan

  before { signed_in_as "maren" }

  it "is paused, resumed and stopped with the numbers said" do
    open_sequence "Architects’ round"
    expect(page).to have_css("header", text: "Paused")
    click_button "Resume"
    expect(page).to have_css("header", text: "Running")
    click_button "Pause"
    expect(page).to have_css("header", text: "Paused")
    click_button "Stop…"
    within("dialog") do
      expect(page).to have_text(/\d+ letters that are still due will not go out/)
      click_button "Let it be"
    end
    expect(page).to have_css("header", text: "Paused")
  end

  it "lets a status be set by hand and somebody be taken out" do
    open_sequence "Quieter dining rooms"
    press "m"
    row = find("tr", text: /before step \d/, match: :first)
    name = row.find("button").text
    select "has answered", from: "Status of #{name}"
    expect(page).to have_css("tr", text: /#{Regexp.escape(name)}.*by hand/m)
    click_button name
    within("aside") { click_button "Take out" }
    expect(page).to have_css("tr", text: /#{Regexp.escape(name)}.*taken out by hand/m)
    within("[role=status]") { click_button "Undo" }
    expect(page).to have_css("tr", text: /#{Regexp.escape(name)}.*before step \d/m)
    within("aside") { click_button "Pause" }
    expect(page).to have_css("tr", text: /#{Regexp.escape(name)}.*before step \d, paused/m)
    within("aside") { click_button "Go on" }
    expect(page).to have_no_css("tr", text: /#{Regexp.escape(name)}.*paused/m)
    within("aside") { expect(page).to have_text("Ahead, if nothing happens") }
  end

  it "shows its members with the columns one asks for, found and ordered" do
    open_sequence "Quieter dining rooms"
    press "m"
    expect(page).to have_css("th", text: "Status")
    click_button "Columns"
    within("[role=dialog]") { ["Status", "Address", "Owner"].each { |column| find("label", text: column).click } }
    find_button("Columns").send_keys(:escape)
    expect(page).to have_css("th", text: "Owner")
    expect(page).to have_css("td", text: /@.*\.example/)
    expect(page).to have_no_css("th", text: "Status")
    click_button "Name", exact: true
    expect(page).to have_css("th[aria-sort=ascending]", text: "Name")
    name = find("tbody tr:nth-child(2) button").text
    fill_in "Find a member", with: name
    expect(page).to have_css("tbody tr button", text: name)
    accessible
  end

  it "shows the letters that are out, on paper, on a phone and as text, and takes no line into them" do
    open_sequence "Winter letter"
    click_link "See all", exact: false
    on_the_sheet { expect(page).to have_text("Dear") }
    expect(page).to have_text("Went out")
    expect(page).to have_no_button("Write to this one")
    click_button "Phone"
    expect(page).to have_css("[data-testid=letter-frame][style*='360px']")
    click_button "Text"
    expect(page).to have_css("pre", text: "Dear")
  end

  it "opens the letters and the people behind its figures, and says when there are fewer people than letters" do
    open_sequence "Winter letter"
    press "r"
    row = find("tr", text: "All letters")
    sent = row.all("td")[2].text.lines.first.strip
    row.find_button(sent, match: :first).click
    expect(page).to have_css("dialog", text: /#{sent} letters to \d+ people/)
  end

  it "has its replies read and sorted with the keyboard" do
    visit "/replies"
    expect(page).to have_css("button[aria-current=true]")
    first, second = all("button[aria-current] strong").map(&:text)
    press "j"
    expect(page).to have_css("button[aria-current=true]", text: second)
    press "k"
    expect(page).to have_css("button[aria-current=true]", text: first)
    press "l"
    expect(page).to have_no_css("button[aria-current]", text: first)
    show_replies "Later"
    expect(page).to have_css("button[aria-current]", text: first)
  end

  it "tells automatic answers and failed addresses apart" do
    visit "/replies"
    show_replies "Automatic"
    expect(page).to have_css("button[aria-current]", text: "automatic answer")
    expect(page).to have_css("button[aria-current]", text: "address failed")
  end
end
