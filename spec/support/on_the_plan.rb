# frozen_string_literal: true

# What the specs of a plan on the page share.
module OnThePlan
  # Adds a step of a kind behind what is named.
  def add(kind, behind)
    click_button "Add a step after #{behind}"
    within("[role=dialog]") { find("button", text: /\A#{kind}/).click }
  end

  def accessible = expect(page).to(be_axe_clean.according_to(:wcag2a, :wcag2aa, :wcag21aa, :wcag22aa).excluding("iframe"))

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
