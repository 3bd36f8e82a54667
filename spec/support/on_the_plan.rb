# frozen_string_literal: true

# What the specs of a plan on the page share.
module OnThePlan
  # Adds a step of a kind behind what is named.
  def add(kind, behind)
    click_button "Add a step after #{behind}"
    take_kind kind
  end

  # The new step stands beside the plan once it is saved, and the focus is in it; until then another one does.
  def take_kind(kind)
    within("[role=dialog]") { find("button", text: /\A#{kind}/).click }
    expect(page).to have_css("[data-panel] :focus")
  end

  # A sequence, and its plan on the page.
  def begin_sequence(name, **said)
    made = make_sequence(name, **said)
    yield made if block_given?
    visit "/sequences/#{made}/plan"
    made
  end

  def open_sequence(name)
    visit "/sequences/#{sequence_named(name)}/plan"
    expect(page).to have_css("[aria-label='Name of the sequence']")
  end

  def typed(words) = fill_in("Type when it goes out", with: words).send_keys(:enter)

  # Who gets a tag joins.
  def joins_by_tag(tag)
    find("button", text: /joins? by themselves/).click
    fill_in "Which tag; a new one is made", with: tag
    click_button "They join"
    expect(page).to have_text("Joins whoever gets the tag “#{tag}”")
  end

  def start_now
    click_button "Start…"
    within("dialog") { find("button", text: /\AStart .* now\z/).click }
    expect(page).to have_css("header", text: "Running")
  end

  # Takes a letter of the library for the step that is open.
  def take_letter(name)
    expect(page).to have_css("h2", text: "Which letter?")
    click_button "choose or write one"
    within("dialog") do
      fill_in "Find a letter", with: name
      find("button[aria-pressed]", text: name, match: :first).click
      click_button "Take this letter"
    end
    expect(page).to have_css("aside h2", text: name)
  end
end
