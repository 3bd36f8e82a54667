# frozen_string_literal: true

RSpec.describe "the plan on the page" do
  include OnThePlan

  before { signed_in_as "maren" }

  def card(words) = find("button[data-step]", text: words)

  def open_draft
    visit "/sequences/#{sequence_named("Classrooms before summer")}"
    expect(page).to have_css("aside[aria-label='Step 1']")
  end

  def choose(label, words)
    click_button label, match: :first
    within("[role=dialog]") { find("button", text: words, match: :first).click }
  end

  def stored = ask(:get, "/api/sequences/#{page.current_path[/\d+/]}")

  it "says when a step goes out in a sentence whose words open their choices, or as one types it" do
    open_draft
    card("Shall we listen together?").click
    choose("Counted from", "around Birthday")
    expect(page).to have_text("Letter · 5 working days after “birthday”, every year")
    click_button "How long"
    select "before", from: "Before or after"
    find_field("How many").send_keys([:control, "a"], "10", :escape)
    expect(page).to have_text("10 working days before “birthday”, every year")
    typed "on 3 June 2026"
    expect(page).to have_text("Letter · on 3 Jun 2026, 9:00–11:30")
    expect(page).to have_css("main", text: "Wed 3 Jun")
    typed "when the moon is full"
    expect(page).to have_css("[role=alert]", text: "moon")
    typed "2 weeks later, Tue to Thu"
    expect(page).to have_text("Letter · 2 weeks later, on Tue to Thu")
    click_button "On which days"
    %w[Monday Friday].each { |day| click_button day }
    find_button("Friday").send_keys(:escape)
    typed "5 working days later"
    expect(page).to have_text("Letter · 5 working days later, 9:00–11:30")
    expect(page).to have_text("Why then?")
    accessible
  end

  it "lays out a different way for whoever opened, clicked, replied, could not be reached, or did nothing" do
    visit "/sequences"
    click_button "New sequence"
    click_button "Empty"
    fill_in("Name of the sequence", with: "Five ways").send_keys(:enter)
    click_button "Add a letter"
    take_letter "Classrooms before summer"
    add "Fork", "step 1"
    within("aside[aria-label='Step 2']") do
      expect(page).to have_text("Wait up to 5 working days")
      3.times { |n| click_button("Add a lane") && has_css?("li", count: n + 3) }
      lanes = ->(i) { all("li")[i] }
      within(lanes.call(1)) { choose("Of which step", "1: Classrooms") }
      within(lanes.call(1)) { choose("Which link", "https://ternandfallow.example/schools") }
      {2 => "they replied", 3 => "their address failed"}.each do |i, happens|
        within(lanes.call(i)) do
          find("button[aria-label^='What the lane']").click
          within("[role=dialog]") { find("button", text: happens).click }
        end
        expect(page).to have_css("li:nth-child(#{i + 1})", text: happens)
      end
    end
    add "Letter", "the lane “opens (step 1)”"
    take_letter "Shall we listen together?"
    add "Task", "the lane “clicks “https://ternandfallow.example/schools” (step 1)”"
    fill_in("What is to be done", with: "Ring the head").send_keys(:enter)
    add "Change", "the lane “replies”"
    select "Move their deal to a stage", from: "What is changed"
    select "listening visit", from: "Stage"
    add "Task", "the lane “address fails”"
    expect(page).to have_text("nothing said to do")
    fill_in("What is to be done", with: "Find another address").send_keys(:enter)
    add "Letter", "the lane “otherwise”"
    take_letter "Winter letter"
    expect(page).to have_no_text("nothing said")
    expect(stored["name"]).to eq("Five ways")
    fork = stored["steps"].last
    told = fork["lanes"].map { |lane| [lane["test"]&.fetch("kind"), lane["steps"].map { |step| step["headline"] }] }
    expect(told).to eq([["opened", ["Shall we listen together?"]], ["clicked", ["Ring the head (the owner)"]],
      ["replied", ["Deal to “listening visit”"]], ["bounced", ["Find another address (the owner)"]], [nil, ["Winter letter"]]])
    accessible
  end

  it "is laid out with keys alone, and undone and done again" do
    open_draft
    before = stored["steps"].map { |step| step["headline"] }
    press "n"
    expect(page).to have_css("[role=dialog] button:focus", text: "Letter")
    page.active_element.send_keys(:tab)
    expect(page).to have_css("[role=dialog] button:focus", text: "Task")
    page.active_element.send_keys(:enter)
    expect(page).to have_css("aside[aria-label='Step 2']", text: "What is to be done")
    fill_in("What is to be done", with: "Ask Idris").send_keys(:enter)
    expect(page).to have_css("button[data-step]", text: "Ask Idris")
    page.send_keys([:alt, :arrow_up])
    expect(page).to have_css("aside[aria-label='Step 1']", text: "Ask Idris")
    press "c"
    expect(page).to have_css("button[data-step]", text: "Ask Idris", count: 2)
    press "x"
    expect(page).to have_css("button[data-step]", text: "Ask Idris", count: 1)
    page.send_keys([:control, "z"])
    expect(page).to have_css("button[data-step]", text: "Ask Idris", count: 2)
    page.send_keys([:control, :shift, "z"])
    expect(page).to have_css("button[data-step]", text: "Ask Idris", count: 1)
    5.times { click_button "Undo" }
    expect(page).to have_button("Undo", disabled: true)
    expect(page).to have_css("button[data-step]", count: before.size + 1) # and the one within a lane
    # What was undone last is still on its way; an expectation that is not met is no error that is waited on.
    page.document.synchronize(20, errors: [Capybara::ExpectationNotMet]) do
      titles = stored["steps"].map { |step| step["headline"] }
      raise Capybara::ExpectationNotMet, "kept are #{titles}" unless titles == before
    end
  end

  it "keeps notes in the margin, and a letter written from a step comes back to it" do
    open_draft
    click_button "Write a note on this plan"
    fill_in("A note to colleagues", with: "Not before the holidays").send_keys([:control, :enter])
    expect(page).to have_field("A note", with: "Not before the holidays")
    click_button "Write", exact: true
    expect(page).to have_css("[aria-label='Text of the letter']")
    click_link "Classrooms before summer"
    expect(page).to have_css("aside[aria-label='Step 1']", text: "Classrooms before summer")
    within("section[aria-label=Notes]", match: :first) { click_button "Take the note away" }
    expect(page).to have_no_field("A note", with: "Not before the holidays")
  end

  it "goes to people picked by hand, each with a line of one's own now and before the second letter" do
    visit "/people"
    expect(page).to have_css("[role=row][aria-rowindex='6']")
    (2..6).each { |row| find("[role=row][aria-rowindex='#{row}'] input").click }
    click_button "Write to these 5…"
    click_button "Begin with…"
    fill_in "A letter of the library", with: "Two dates"
    within("dialog") { find("li", text: "Two dates that would suit").click_button("The letter itself") }
    expect(page).to have_field("Name of the letter", with: "Two dates that would suit")
    # The plan opens at the step that was added.
    click_button "Add a follow-up"
    take_letter "Winter letter"
    of = page.text[/(\d+) of 5 will get it/, 1].to_i
    expect(of).to be > 2
    2.times do |step|
      find("button[data-step][aria-label^='Step #{step + 1}:']").click
      within("aside") { click_link "See all #{of}" }
      of.times do |i|
        on_the_sheet { expect(page).to have_text("Dear") }
        press "e"
        fill_in("personal-line", with: "Line #{step + 1} for number #{i + 1}.").send_keys([:control, :enter])
        on_the_sheet { expect(page).to have_css(".nl-personal", text: "for number #{i + 1}.") }
        press "j"
      end
      expect(page).to have_text("#{of} personal")
      press "b"
    end
  end

  it "moves a step by dragging it to another place" do
    open_draft
    card("Shall we listen together?").drag_to(find_button("Add a step after joining"))
    expect(page).to have_css("button[aria-label^='Step 1: Shall we listen']")
    click_button "Undo"
    expect(page).to have_css("button[aria-label^='Step 1: Classrooms']")
  end
end
