# frozen_string_literal: true

RSpec.describe "the plan on the page" do
  before do
    sign_in_as_maren
    visit "/sequences"
    click_link "Classrooms before summer"
    expect(page).to have_css("aside[aria-label='Step 1']")
  end

  def card(words) = find("button", text: words)

  it "counts a step from a date of theirs, every year, and from a day, on chosen days of the week" do
    card("Shall we listen together?").click
    select "around a date of theirs", from: "Counted from"
    expect(page).to have_text("Letter · 5 working days after “birthday”, every year")
    select "before", from: "Before or after"
    expect(page).to have_text("5 working days before “birthday”, every year")
    find_field("How long after").send_keys([:control, "a"], "10")
    expect(page).to have_text("10 working days before “birthday”, every year")

    select "on a day", from: "Counted from"
    fill_in "The day it goes out", with: "3 June 2026"
    find_field("The day it goes out").send_keys(:enter)
    expect(page).to have_text("Letter · on 3 Jun 2026, 9:00–11:30")
    expect(page).to have_css("main", text: "Wed 3 Jun")

    select "after the step before", from: "Counted from"
    find_field("How long after").send_keys([:control, "a"], "2")
    select "weeks", from: "Unit"
    %w[Monday Friday].each { |day| click_button day }
    expect(page).to have_text("Letter · 2 weeks later, on Tue to Thu")
    %w[Monday Friday].each { |day| click_button day }
    select "working days", from: "Unit"
    find_field("How long after").send_keys([:control, "a"], "5")
    expect(page).to have_text("Letter · 5 working days later, 9:00–11:30")
    expect(page).to be_axe_clean.according_to(:wcag2a, :wcag2aa, :wcag21aa, :wcag22aa).excluding("iframe")
  end
end
