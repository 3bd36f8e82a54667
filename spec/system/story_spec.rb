# frozen_string_literal: true

# The whole path as one story: from a shared record to a counted reply.
RSpec.describe "from a shared record to a counted reply" do
  include OnThePlan

  before { signed_in_as "maren" }

  def add_person(first_name, last_name, address, city: "Saltmarsh")
    visit "/people"
    press "n"
    within("dialog") do
      {
        "First name" => first_name,
        "Last name" => last_name,
        "Address" => address,
        "Company" => "Saltmarsh House",
        "City" => city
      }.each { |field, value| fill_in field, with: value }
      click_button "Add person"
    end
    expect(page).to have_css("h1", text: "#{first_name} #{last_name}".strip)
  end

  def write_letter(name, subject, body)
    visit "/letters"
    press "b"
    click_button "Empty, plain"
    fill_in "Name of the letter", with: name
    find("[aria-label=Subject]").send_keys(subject)
    find("[aria-label='Preview line']").send_keys("A line beside it")
    find("[aria-label='Text of the letter']").send_keys(*body)
  end

  def add_step(letter)
    page.has_button?("Add a letter") ? click_button("Add a letter") : add("Letter", "step 1")
    take_letter letter
  end

  it "signs in, picks people, writes, looks, starts, sends, and counts the reply" do
    add_person("Zoë", "Sommer", "answering+zoe@saltmarsh.example")
    add_person("", "Winter", "silent+winter@saltmarsh.example")

    # A letter; a field that does not exist is caught as it is typed.
    write_letter("Story: first word", "A word about {{company}}", ["Dear {{frist name}},"])
    expect(page).to have_css(".unknown-field", text: "{{frist name}}")
    find("button", text: /\AChecks/).click
    expect(page).to have_text("There is no field “frist name”. Did you mean “first name”?")
    find("[aria-label='Text of the letter']").send_keys([:control, "a"], "Dear {{first name}},", :enter, "How is the room in {{city}}?")
    expect(page).to have_css(".merged", text: "First name")
    expect(page).to have_no_css(".unknown-field")
    expect(page).to have_css("[role=status]", text: "Saved")
    write_letter("Story: second word", "Once more", ["Dear {{first name|there}}, once more."])
    expect(page).to have_css("[role=status]", text: "Saved")

    # Pick people with a sentence; the count and the sieve move.
    visit "/people"
    choose_in_sentence("And…", "City")
    within("[role=dialog]") { fill_in("Find in City", with: "Saltmarsh").send_keys(:enter, :escape) }
    expect(page).to have_css("p", text: /\A2 people match/)
    expect(page).to have_button("2 would get it")
    click_button "Save as filter"
    within("dialog") do
      fill_in "Name", with: "In Saltmarsh"
      click_button "Save filter"
    end
    expect(page).to have_text("saved as In Saltmarsh")

    # Write to them: two letters on the ruler.
    filter = ask(:get, "/api/filters")["filters"].find { |one| one["name"] == "In Saltmarsh" }
    # From a mailbox that has room, whatever other examples have sent from Maren's.
    hello = ask(:get, "/api/mailboxes")["mailboxes"].find { |box| box["address"] == "hello@ternandfallow.example" }
    sender = {kind: "mailbox", mailbox_id: hello["id"]}
    visit "/sequences/#{make_sequence("To In Saltmarsh", audience: {filter_id: filter["id"]}, sender: sender)}"
    expect(page).to have_css("[aria-label='Name of the sequence']")
    add_step("Story: first word")
    add_step("Story: second word")
    expect(page).to have_text("2 of 2 will get it")
    expect(page).to have_text("1 gap to fill")

    # One letter has a gap and would wait. Look at the letters and mend it.
    press "s"
    within("dialog") do
      expect(page).to have_text("1 letter of “Story: first word” has a gap")
      expect(page).to have_button("Start the other 2 letters now")
      click_link "Fill gaps"
    end
    # The gap is open at once; with none left all letters are there.
    expect(page).to have_text("1 of 2")
    on_the_sheet { expect(page).to have_css("[data-gap]", text: "first name is missing") }
    fill_in "mend", with: "Frost"
    click_button "Into the record"
    expect(page).to have_text("2 letters")
    on_the_sheet { expect(page).to have_text("Dear Zoë,") }
    press "j"
    on_the_sheet { expect(page).to have_text("Dear Frost,") }

    # A line of one's own, only in this one.
    press "k"
    press "e"
    fill_in "personal-line", with: "It was good to meet you at the counter."
    click_button "Put it in"
    on_the_sheet { expect(page).to have_css(".nl-personal", text: "It was good to meet you") }
    expect(page).to have_text("1 personal")

    # Start: the numbers are read back first.
    press "b"
    press "s"
    within("dialog") do
      expect(page).to have_text("4 letters to 2 people")
      expect(page).to have_text("hello@ternandfallow.example")
      click_button "Start 4 letters now"
    end
    expect(page).to have_text("Running")

    # Whoever changes a letter now is told whom it reaches, and may write in a copy.
    visit "/letters"
    click_link "Story: second word"
    expect(page).to have_text("In “To In Saltmarsh”: 0 people have had it, 2 will get it as it is here.")
    click_button "Write in a copy instead"
    expect(page).to have_field("Name of the letter", with: "Story: second word, copy")

    # Time passes: the letters go out, and one of the two answers before the second letter.
    2.times { move_clock "Clock forward a day" }
    visit "/replies"
    find("button[aria-current]", text: "Zoë Sommer").click
    within("section[aria-label='The reply']") do
      expect(page).to have_text("Answers “Story: first word”, step 1 of To In Saltmarsh")
      expect(page).to have_text("has answered · taken out, no further letter goes")
      expect(page).to have_no_text("wrote:")
      click_button "Record a conversion…"
    end
    within("dialog") do
      fill_in "Worth, in pounds", with: "240"
      click_button "Record it"
    end
    show_replies "Done"
    expect(page).to have_text("Converted: visit booked, £240")

    # The figures agree, and each opens its people.
    click_link "To In Saltmarsh"
    within("nav[aria-label='Parts of the sequence']") { click_link "Results" }
    expect(page).to have_text("2 people, 1 conversion worth £240")
    total = all("tr", text: "All letters").first.all("td").map { |cell| cell.text.lines.first.to_s.strip }
    headings = all("thead th").map(&:text)
    figures = headings.zip(total).to_h
    expect(figures.values_at("Planned", "Sent", "Still due", "Failed", "Skipped", "In doubt")).to eq(%w[4 2 1 0 1 0])
    expect(figures.values_at("Replied", "Clicked", "Converted")).to eq(%w[1 0 1])
    find("tr", text: "All letters").find_button("1", exact: true, match: :first).click
    expect(page).to have_css("dialog", text: /1 person/)
    within("dialog") { click_button "Close" }
    click_link "Members 2"
    expect(page).to have_css("tr", text: /Zoë Sommer.*left after a reply/m)

    # The person's own history tells the same.
    click_button "Zoë Sommer"
    within("aside") { click_link "Zoë Sommer" }
    ["Converted: visit booked", "Left “To In Saltmarsh”", "Replied", "Had “Story: first word”"].each do |words|
      expect(page).to have_css("ol", text: words)
    end
    click_button "Had “Story: first word”"
    expect(page).to have_css("dialog", text: "It was good to meet you at the counter.")
    within("dialog") { click_button "Close" }

    # The second letter goes to the one who is left, and that is the end of it.
    4.times { move_clock "Clock forward a day" }
    visit "/sequences"
    expect(page).to have_css("tr", text: /To In Saltmarsh\s+Ended\s+2\s+2\s+4\s+3\s+1/)
  end
end
