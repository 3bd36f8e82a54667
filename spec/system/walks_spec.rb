# frozen_string_literal: true

# What people of this trade lay out, from the first move to the start.
RSpec.describe "a walk" do
  include OnThePlan

  before { sign_in_as_maren }

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
    page.evaluate_async_script(<<~JS, count)
      const [count, done] = arguments
      fetch('/api/session').then((answer) => answer.json()).then(({ csrf }) => fetch('/api/people/search', {
        method: 'POST', headers: { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf },
        body: JSON.stringify({ condition: { field: 'person.standing', is: 'one_of', value: ['lead'] }, limit: 60 }),
      })).then((answer) => answer.json())
        .then(({ people }) => done(people.filter((one) => one.may_write && one.email && !one.now_in).slice(0, count).map((one) => one.id)))
    JS
  end

  def letters_in_a_row(names, timing)
    click_button "Add a letter"
    take_letter names.first
    names.drop(1).each_with_index do |name, i|
      add "Letter", "step #{i + 1}"
      take_letter name
      typed timing
      expect(page).to have_css("button[data-step][aria-label='Step #{i + 2}: #{name}']")
    end
  end

  def add_otherwise(kind, which)
    all("button[aria-label='Add a step after the lane “otherwise”']", count: 2)[which].click
    take_kind kind
  end

  it "of seven letters, three days apart, to whoever gets a tag, until they buy; one is written anew while it runs" do
    begin_sequence "Seven to the workshop"
    joins_by_tag "workshop asked for"
    click_button "Leave on"
    find("[role=dialog] label", text: "reply").click
    find_button("Leave on").send_keys(:escape)
    letters_in_a_row letters, "3 days later"
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
    begin_sequence "An offer to whoever listened"
    joins_by_tag "listened to it"
    click_button "Add a letter"
    take_letter "Two dates that would suit"
    start_now
    begin_sequence "Who listens"
    joins_by_tag "to be asked"
    click_button "Add a letter"
    take_letter "Before and after at table nine"
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
    begin_sequence "Signed up"
    joins_by_tag "signed up"
    click_button "Add a letter"
    take_letter letters.first
    typed "5 minutes after joining"
    [1, 4, 10, 14].each_with_index do |day, i|
      add "Letter", "step #{i + 1}"
      take_letter letters[i + 1]
      typed "#{day} days after joining"
      expect(page).to have_css("button[data-step]", text: "#{day} day#{"s" if day > 1} after joining")
    end
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
    begin_sequence "Two letters, then a call"
    click_button "To whom"
    click_button "Filters, always current: choose"
    find("[role=dialog] label", text: "Schools we know").click
    page.send_keys(:escape)
    click_button "This is for them"
    letters_in_a_row ["Shall we listen together?", "Winter letter"], "5 working days later"
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
    click.call(find_button("Choose a letter…"))
    click.call(find("dialog button[aria-pressed]", text: "Shall we listen together?", match: :first))
    click.call(find_button("Take this letter"))
    expect(page).to have_css("aside h2", text: "Shall we listen together?")
    click.call(find_button("Start…"))
    click.call(find_button("Start at a time"))
    click.call(find_button("Start it then"))
    expect(page).to have_text(/Starts by itself on .*, 9:00/)
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
    visit "/sequences"
    click_link "Quieter dining rooms"
    within("nav[aria-label='Parts of the sequence']") { click_link "Results" }
    button = find("button", text: /\AWrite to the \d+ quiet/, match: :first)
    count = button.text[/\d+/]
    button.click
    expect(page).to have_field("Name of the sequence", with: /\AOnce more: /)
    expect(page).to have_text(/\d+ of #{count} will get it/)
  end

  it "out of the firm as a file and back in, made one's own" do
    visit "/sequences"
    click_link "After the trade evening"
    expect(page).to have_css("aside")
    file = page.evaluate_async_script("fetch(`/api/sequences/${arguments[0]}/file`).then((r) => r.text()).then(arguments[1])",
      page.current_path[/\d+/])
    Tempfile.create(%w[evening .json]) do |kept|
      kept.write(file.gsub("trade evening", "open day"))
      kept.flush
      visit "/sequences"
      click_button "New sequence"
      attach_file("File of a sequence", kept.path, make_visible: true)
      within("dialog") do
        fill_in "Its name", with: "After the open day"
        until page.has_button?("Make the sequence", wait: 0) do click_button "Next" end
        click_button "Make the sequence"
      end
    end
    expect(page).to have_field("Name of the sequence", with: "After the open day")
    expect(page).to have_css("button[data-step]", text: "Good to meet you at the open day")
    click_button "More"
    within("[role=dialog]") { find("button", text: "Copy").click }
    expect(page).to have_field("Name of the sequence", with: "After the open day, copy")
  end
end
