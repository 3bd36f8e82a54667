# frozen_string_literal: true

RSpec.describe "a rehearsal on the page" do
  include OnThePlan

  before { signed_in_as "maren" }

  def open_rehearsal(name)
    visit "/sequences/#{sequence_named(name)}/rehearsal"
    expect(page).to have_css("h2", text: "What it is like for one of them")
  end

  def cells = all("tbody td button").sum { |cell| cell.text[/\d+/].to_i }

  def told(words) = find("main p", text: "get", match: :first).text[/(\d+) #{words}/, 1].to_i

  it "adds up, opens who is behind each cell, and shows single lives with J and K" do
    open_rehearsal "Classrooms before summer"
    expect(page).to have_text("Rehearsal, nothing goes out")
    expect(cells).to eq(told("letters") + told("task"))
    cell = first("tbody td button")
    count = cell.text[/\d+/].to_i
    cell.click
    expect(page).to have_css("dialog li", count: count)
    page.send_keys(:escape)
    expect(page).to have_css("li[aria-current=true]", text: find("li[aria-current=true] a").text)
    first_life = find("li[aria-current=true] a").text
    press "j"
    expect(page).to have_no_css("li[aria-current=true]", text: first_life)
    press "k"
    expect(page).to have_css("li[aria-current=true]", text: first_life)
    accessible
  end

  it "goes by other assumptions, and by rates of one's own, which the address of the page keeps" do
    open_rehearsal "Classrooms before summer"
    click_button "nobody answers"
    expect(page).to have_text("If nobody answers")
    expect(page).to have_text("0 are opened")
    click_button "Rates of your own"
    find_field("open", exact: true).send_keys([:control, "a"], "100", :escape)
    expect(page).to have_text("Of 100 letters 100 are opened")
    expect(page.current_url).to include("opened=100")
    page.refresh
    expect(page).to have_text("Of 100 letters 100 are opened")
  end
end
