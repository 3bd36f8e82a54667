# frozen_string_literal: true

RSpec.describe "records on the page" do
  before { signed_in_as "maren" }

  def file(text, name) = file_of(text, File.extname(name), name: File.basename(name, ".*"))

  it "brings a file in: matched, checked, taken in, and taken back" do
    visit "/files"
    text =
      "Vorname;Nachname;E-Mail;Geburtstag\r\nZoë;Filewright;zoe@filewright.example;03/04/1980\r\nBo;Filewright;not an " \
      "address;04/04/1980\r\n".encode(
        "Windows-1252"
      )
    attach_file("File with people", file(text, "fair.csv"), make_visible: true)
    expect(page).to have_text("1. Match the columns")
    expect(page).to have_button("Check every row", disabled: true)
    select "03/04 is the 3rd of April", from: "Dates are written: say which"
    click_button "Check every row"
    expect(page).to have_css("[role=tab]", text: "1 new")
    expect(page).to have_text("3 Apr 1980")
    find("[role=tab]", text: "1 refused").click
    expect(page).to have_text("“not an address” does not look like an address.")
    click_button "Take 1 row in"
    expect(page).to have_text("1 row taken in.")
    visit "/people"
    fill_in "Quick search", with: "zoe filewright"
    expect(page).to have_css("[role=row]", text: "Zoë Filewright")
    visit "/files"
    within("tr", text: "fair.csv") { click_button "Take back" }
    expect(page).to have_css("tr", text: "taken back")
  end

  it "shows who gets the next post, from the strip and from Today" do
    visit "/"
    letters = find("section[aria-label='The post'] button", text: /\A\d+ letters?\z/).text[/\d+/]
    ["section[aria-label='The post']", "main"].each do |place|
      within(place) { find(:button, text: /\A#{letters} letters?\z/).click }
      within("dialog", text: "The next post") do
        expect(page).to have_text(/#{letters} letters? to \d+ p|#{letters} p(erson|eople)/)
        click_button "Close"
      end
    end
    within("main") { find(:link, text: /\A\d+ mailbox/).click }
    expect(page).to have_css("h2", text: "Mailboxes")
  end

  it "says what is wrong with a file that is none" do
    visit "/files"
    attach_file("File with people", file("PK\x03\x04 no workbook", "people.xlsx"), make_visible: true)
    expect(page).to have_css("[role=alert]", text: "cannot be read as one")
  end

  it "makes one record of two, and two of one again" do
    visit "/doubles"
    pairs = find("header", text: /\d+ pairs/).text[/\d+ pairs/]
    click_button "Compare and merge…", match: :first
    expect(page).to have_css("dialog", text: "One person or two?")
    click_button "Make one record"
    expect(page).to have_css("[role=status]", text: "Merged")
    expect(page).to have_no_css("header", text: pairs)
    click_button "Undo"
    expect(page).to have_css("header", text: pairs)
  end

  it "changes a record where it stands, with its deals, and tells of a colleague's change" do
    visit "/people"
    find("[role=row][aria-rowindex='3']").click
    click_link "Open the record"
    expect(page).to have_css("section[aria-label=History]")
    fill_in "Region", with: "Yorkshire"
    find_field("Region").send_keys(:enter)
    expect(page).to have_css("section[aria-label=History]", text: /Region: .* → Yorkshire/)
    fill_in "New deal", with: "Reading room"
    find_field("New deal").send_keys(:enter)
    expect(page).to have_css("select[aria-label='Stage of Reading room']")
    select "signed", from: "Stage of Reading room"
    expect(page).to have_text("won on")
    click_button "Notes and calls"
    fill_in "Note", with: "Rang about the hall"
    select "Call: reached", from: "A note, or a call"
    click_button "Log call"
    expect(page).to have_css("section[aria-label=History]", text: "reached: Rang about the hall")
  end

  it "puts a record in the bin and takes it out again" do
    visit "/people"
    fill_in "Quick search", with: "osei"
    expect(page).to have_css("p[aria-live=polite]", text: "found")
    find("[role=row][aria-rowindex='2']").click
    click_link "Open the record"
    name = find("h1").text
    click_button "Put in the bin"
    expect(page).to have_css("header", text: "in the bin")
    visit "/bin"
    expect(page).to have_css("[role=row]", text: name)
    find("[role=row]", text: name).find("input").click
    click_button "Do with the people chosen"
    within("[role=dialog]") { click_button "Take out of the bin" }
    find(:button, text: /Take out of the bin for 1 person/).click
    expect(page).to have_text("Took 1 person out of the bin.")
    expect(page).to have_no_css("[role=row]", text: name)
  end

  it "makes a field of the firm's own that is at once a column and a condition" do
    visit "/settings"
    fill_in "A new field", with: "Parking"
    select "yes or no", from: "Holds"
    click_button "Make the field"
    expect(page).to have_field("Name of the field Parking")
    visit "/people"
    click_button "And…"
    fill_in "What to ask about", with: "parking"
    within("[role=dialog]") { expect(page).to have_button("Parking") }
  end

  it "opens the deals at a stage, and those of a company, each with its person" do
    visit "/settings"
    stage = find("tr", text: /\d+ deals?, £/, match: :first)
    many = stage.text[/(\d+) deals?/, 1]
    stage.find(:button, text: /deal/).click
    expect(page).to have_css("dialog", text: /#{many} deals?, £/)
    expect(page).to have_css("dialog li", count: [many.to_i, 60].min)
    within("dialog") { click_button "Close" }
    visit "/companies"
    row = find("tr", text: /\d+, £/, match: :first)
    row.find(:button, text: /, £/).click
    within("dialog") { find("li a", match: :first).click }
    expect(page).to have_current_path(%r{\A/people/\d+})
  end

  it "blocks a domain, which is stronger than any audience" do
    visit "/settings"
    fill_in "Address, or a whole domain", with: "nowhere-at-all.example"
    fill_in "Why", with: "asked by letter"
    click_button "Block the domain"
    within("tr", text: "nowhere-at-all.example") do
      expect(page).to have_text("the whole domain")
      click_button "Take off"
    end
    expect(page).to have_no_text("nowhere-at-all.example")
  end
end
