# frozen_string_literal: true

# What people of this trade lay out, from the first move to the start.
RSpec.describe "a walk" do
  include OnThePlan

  before { signed_in_as "maren" }

  let(:letters) do
    ["The table nobody asks for twice", "Before and after at table nine", "Two dates that would suit",
      "Which of the four is yours?", "Shall we listen together?", "The price list, as you asked", "Winter letter"]
  end
  let(:recording) { "https://ternandfallow.example/listen/table-nine" }

  def choose(label, words)
    click_button label, match: :first
    within("[role=dialog]") { find("button", text: words, match: :first).click }
  end

  # Leads with an address who may be written to.
  def some_people(count)
    people = ask(:post, "/api/people/search", {condition: {field: "person.standing", is: "one_of", value: ["lead"]}, limit: 200})["people"]
    people.select { |one| one["may_write"] && one["email"] && !one["now_in"] && quiet?(one["email"]) }.first(count).map { |one| one["id"] }
  end

  # Who they happen to be must not decide whether one of them leaves meanwhile.
  def quiet?(address) = %i[silent glancer reader].include?(Practice::Temperament.of(address, Demo::Story::SEED))

  def add_otherwise(kind, which)
    all("button[aria-label='Add a step after the lane “otherwise”']", count: 2)[which].click
    take_kind kind
  end

  it "of seven letters, three days apart, to whoever gets a tag, until they buy; one is written anew while it runs" do
    begin_sequence("Seven to the workshop", letters: letters.first(6), timing: {amount: 3, unit: "days"})
    joins_by_tag "workshop asked for"
    click_button "Leave on"
    find("[role=dialog] label", text: "reply").click
    find_button("Leave on").send_keys(:escape)
    add "Letter", "step 6"
    take_letter letters.last
    typed "3 days later"
    click_button "Write a note on this plan"
    fill_in("A note to colleagues", with: "Ends as soon as they buy").send_keys([:control, :enter])
    expect(page).to have_text("Leave on conversion")
    click_button "Start…"
    within("dialog") do
      rule = "whoever gets the tag “workshop asked for”"
      expect(page).to have_text("Nobody is in it from the start. People join by its rules: #{rule}", normalize_ws: true)
      expect(page).to have_text("0 people would have joined in the last 30 days.")
      click_button "Not now"
    end
    start_now
    tag some_people(2), "workshop asked for"
    move_clock "Clock forward an hour"
    visit page.current_path
    expect(page).to have_text("2 people so far")
    find("button[data-step][aria-label^='Step 7:']").click
    within("aside") { click_button "Write" }
    find("[aria-label='Text of the letter']").send_keys([:control, :end], " And thank you.")
    expect(page).to have_text("2 will get it in its former words")
    click_button "Let the new words take effect in “Seven to the workshop” …"
    within("dialog") do
      expect(page).to have_text("2 letters of “Seven to the workshop” that are still to go say this from now on.")
      click_button "Let it take effect"
    end
    expect(page).to have_text("In “Seven to the workshop”: 0 people have had it, 2 will get it as it is here.")
  end

  it "of an opening within a week, a link, a second try, and tags of which one starts another sequence" do
    offer = make_sequence("An offer to those who listened", letters: ["Two dates that would suit"])
    joins_by offer, "listened to it"
    start offer
    begin_sequence("Who listens", letters: ["Before and after at table nine"]) { |made| joins_by made, "to be asked" }
    add "Fork", "step 1"
    within("aside") do
      click_button "How long it waits"
      within("[role=dialog]") do
        fill_in "How many", with: "1"
        select "weeks", from: "Unit"
      end
    end
    expect(page).to have_css("button[data-step]", text: "Waits up to 1 week")
    add "Fork", "the lane “opens (step 1)”"
    within("aside") do
      within("li:nth-child(1)") do
        find("button[aria-label^='What the lane']").click
        within("[role=dialog]") { find("button", text: "they clicked").click }
        choose("Of which step", "1: Before and after")
        choose("Which link", recording)
      end
    end
    add "Change", "the lane “clicks “#{recording}” (step 1)”"
    select "Tag them", from: "What is changed"
    fill_in("Tags, with commas between", with: "listened to it").send_keys(:enter)
    # The fork within comes first.
    inner, outer = 0, -1
    add_otherwise "Letter", inner
    take_letter "Shall we listen together?"
    add_otherwise "Change", outer
    select "Tag them", from: "What is changed"
    fill_in("Tags, with commas between", with: "did not open").send_keys(:enter)
    expect(page).to have_no_text("nothing said to change")
    start_now
    expect(page).to have_css("button[data-step]", text: "Tag them listened to it")
    expect(page).to have_css("button[data-step]", text: "Tag them did not open")
  end

  it "of a letter every year, ten days before a date of theirs, at nine" do
    visit "/sequences"
    click_button "New sequence"
    click_button "A letter every year"
    click_button "Begin with this one"
    within("dialog") do
      expect(page).to have_field("Its name", focused: true)
      fill_in("Its name", with: "Ten days before").send_keys(:enter)
      expect(page).to have_select("From", focused: true)
      select "each person’s owner, or hello@ternandfallow.example", from: "From"
      accessible
      click_button "Make the sequence"
    end
    click_button "every year 10 days before birthday"
    select "Room fitted on", from: "Which date of theirs"
    expect(page).to have_css("dialog [aria-live]", text: "would join in the next 30 days")
    click_button "Keep it"
    expect(page).to have_text("Joins every year 10 days before room fitted on, each year anew")
    expect(page).to have_text(/Letter · on joining, .*9:00/)
    start_now
  end

  # With keys alone, as far as one has come to the thing with Tab.
  it "of a letter to all clients, now and in future, with keys alone and no filter made before" do
    begin_sequence "To all clients"
    find_button("Choose a letter…").send_keys(:enter)
    expect(page).to have_field("Find a letter", focused: true)
    send_keys "winter"
    expect(page).to have_css("dialog button[aria-pressed]", count: 1)
    send_keys :enter
    expect(page).to have_button("Winter letter", focused: true)
    find("button", text: /joins? by themselves/).send_keys(:enter)
    select "whoever begins to fit a filter", from: "Joins"
    find_button("Say in a sentence who it is…").send_keys(:enter)
    expect(page).to have_text("It means nobody until it is finished.")
    expect(page).to have_button("They join", disabled: true)
    find_button("And…").send_keys(:enter)
    send_keys "standing is client", :enter
    expect(page).to have_css("dialog [role=group]", text: "Everyone who is a client")
    fits = find("dialog p[aria-live]", text: "may be written to").text
    find("dialog label", text: "those join too of whom it is true already").click
    accessible
    find_button("They join").send_keys(:enter)
    expect(page).to have_text("Joins whoever begins to fit: everyone who is a client")
    find_button("Start…").send_keys(:enter)
    at_once = find("dialog p", text: "join at once").text[/\A[\d,]+ people/]
    expect(fits).to include("; #{at_once.delete_suffix(" people")} of them may be written to")
    find_button("Start it now").send_keys(:enter)
    expect(page).to have_css("header", text: "Running")
    move_clock "Clock forward an hour"
    visit page.current_path
    expect(page).to have_link("Members #{at_once[/[\d,]+/]}")
  end

  it "puts the focus where more is to be said of a step that was just added, and back when a question is answered" do
    begin_sequence "Focus"
    find_button("Add a letter").send_keys(:enter)
    expect(page).to have_button("choose or write one", focused: true)
    send_keys :enter
    expect(page).to have_field("Find a letter", focused: true)
    send_keys "winter"
    expect(page).to have_css("dialog button[aria-pressed]", count: 1)
    send_keys :enter
    expect(page).to have_button("Winter letter", focused: true)
    find_button("Add a step after step 1").send_keys(:enter)
    find("[role=dialog] button", text: "Task").send_keys(:enter)
    expect(page).to have_css("aside", text: "Step 2 · Task")
    expect(page).to have_css("[data-panel] :focus")
  end

  it "of a welcome at once and on four days after it, which nobody gets twice" do
    days = [1, 4, 10, 14]
    after_joining = ->(letter, amount, unit) { {letter_id: letter_named(letter), counted: "joining", amount: amount, unit: unit} }
    later = days.zip(letters.drop(1)).map { |day, letter| after_joining.call(letter, day, "days") }
    begin_sequence("Signed up", steps: [after_joining.call(letters.first, 5, "minutes"), *later]) { |made| joins_by made, "signed up" }
    days.each { |day| expect(page).to have_css("button[data-step]", text: "#{day} day#{"s" if day > 1} after joining") }
    start_now
    person = some_people(1)
    tag person, "signed up"
    move_clock "Clock forward an hour"
    tag person, "signed up", kind: "untag"
    tag person, "signed up"
    move_clock "Clock forward an hour"
    visit page.current_path
    expect(page).to have_text("1 person so far")
    expect(page).to have_link("Members 1")
  end

  it "of two letters, after which no answer becomes a task for their owner" do
    two = ["Shall we listen together?", "Winter letter"]
    begin_sequence("Two letters, then a call", letters: two, timing: {amount: 5, unit: "working_days"})
    click_button "To whom"
    click_button "Filters, always current: choose"
    find("[role=dialog] label", text: "Schools we know").click
    page.send_keys(:escape)
    click_button "This is for them"
    add "Fork", "step 2"
    within("aside") do
      within("li:nth-child(1)") do
        find("button[aria-label^='What the lane']").click
        within("[role=dialog]") { find("button", text: "they replied").click }
      end
    end
    add "Task", "the lane “otherwise”"
    fill_in("What is to be done", with: "No answer to two letters: ring them").send_keys(:enter)
    expect(page).to have_css("button[data-step]", text: "No answer to two letters")
    click_link "Rehearsal"
    click_button "nobody answers"
    expect(page).to have_text("If nobody answers")
    people = find("main p", text: "If nobody answers")
    expect(people.text[/colleagues (\d+) tasks/, 1]).to eq(people.text[/(\d+) people/, 1])
    accessible
  end

  it "of a letter each half-month, of which the ninth is taken out and another put in while it runs" do
    visit "/sequences"
    click_button "New sequence"
    click_button "Keeping in touch"
    click_button "Begin with this one"
    within("dialog") do
      click_button "Next"
      select "hello@ternandfallow.example", from: "From"
      click_button "Make the sequence"
    end
    click_button "To whom"
    click_button "Filters, always current: choose"
    find("[role=dialog] label", text: "Schools we know").click
    page.send_keys(:escape)
    click_button "This is for them"
    expect(page).to have_text(/\d+ of \d+ will get it/)
    start_now
    find("button[data-step][aria-label^='Step 9:']").click
    press "x"
    expect(page).to have_text("Proposed, not in effect")
    expect(page).to have_css("button[data-step]", count: 11)
    add "Letter", "step 7"
    take_letter "Winter letter"
    typed "100 days after joining"
    expect(page).to have_css("button[data-step]", text: "Winter letter")
    click_button "Let this take effect…"
    within("dialog") do
      expect(page).to have_text("come to another step instead of one they had before them")
      expect(page).to have_text("Taken out: Keeping in touch 9")
      click_button "Let it take effect"
    end
    expect(page).to have_text("It runs. What you change here is a proposal")
    expect(page).to have_css("button[data-step]", count: 12)
  end

  it "from a filter to a letter that is to go in the morning takes seven moves" do
    visit "/people"
    click_button "Saved filters"
    within("[role=dialog]") { find("button", text: "Schools we know").click }
    moves = 0
    click = ->(what) { (moves += 1) && what.click }
    click.call(find("button", text: /\AWrite to /))
    click.call(find_button("Begin with…"))
    click.call(find("dialog li", text: "Shall we listen together?", match: :first).find("button", text: "The letter itself"))
    expect(page).to have_field("Name of the letter", with: "Shall we listen together?")
    click.call(find_button("When it leaves"))
    click.call(find("[role=dialog] button", text: "At a time"))
    expect(page).to have_css("[aria-label='When it leaves']", text: /, 9:00\z/)
    click.call(find("button", text: /\ASend to \d+…/))
    click.call(find("dialog button", text: /\ASend /))
    expect(page).to have_css("[role=status]", text: /\ASent\./)
    expect(moves).to be <= 7
  end

  it "from a person's page, by the palette, into a sequence that runs" do
    visit "/people"
    find("main h1")
    page.send_keys([:control, "k"])
    find("[cmdk-input]").send_keys("Gilder")
    find("[cmdk-item]", text: /\AAdd .* to a sequence…/, match: :first).click
    fill_in("Find a sequence", with: "price").send_keys(:enter)
    expect(page).to have_css("dialog li", text: "The price list, as you asked")
    accessible
    within("dialog") { find("button", text: /\AAdd them: \d letters?/).click }
    expect(page).to have_no_css("dialog[open]")
    expect(page).to have_css("section", text: "The price list")
  end

  it "to those who stayed quiet, in one move from the results" do
    visit "/sequences/#{sequence_named("Quieter dining rooms")}/results"
    button = find("button", text: /\AWrite to the \d+ quiet/, match: :first)
    count = button.text[/\d+/]
    button.click
    expect(page).to have_css("[aria-label='Subject'].ProseMirror-focused")
    expect(page).to have_text(/\d+ of #{count}/)
  end

  it "out of the firm as a file and back in, made one's own" do
    file = JSON.generate(ask(:get, "/api/sequences/#{sequence_named("After the trade evening")}/file"))
    Tempfile.create(%w[evening .json]) do |kept|
      kept.write(file.gsub("trade evening", "open day"))
      kept.flush
      visit "/sequences"
      click_button "New sequence"
      attach_file("File of a sequence", kept.path, make_visible: true)
      within("dialog") do
        fill_in "Its name", with: "After the open day"
        # One question after the other, as many as the file asks.
        until (on = find("button", text: /\A(Next|Make the sequence)\z/)).text == "Make the sequence" do on.click end
        on.click
      end
    end
    expect(page).to have_field("Name of the sequence", with: "After the open day")
    expect(page).to have_css("button[data-step]", text: "Good to meet you at the open day")
    click_button "More"
    within("[role=dialog]") { find("button", text: "Copy").click }
    expect(page).to have_field("Name of the sequence", with: "After the open day, copy")
  end
end
