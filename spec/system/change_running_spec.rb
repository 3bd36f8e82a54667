# frozen_string_literal: true

RSpec.describe "changing a sequence that runs, on the page" do
  include OnThePlan

  before { signed_in_as "maren" }

  def open_running
    visit "/sequences/#{sequence_named("Quieter dining rooms")}"
    expect(page).to have_text("It runs. What you change here is a proposal")
  end

  # As a colleague does meanwhile.
  def leave_on_nothing(sequence)
    petra = OverTheApi.as("petra")
    version = petra.ask(:get, "/api/sequences/#{sequence}/proposal")["version"]
    petra.ask(:put, "/api/sequences/#{sequence}/proposal", {version: version, leave_on: []})
  end

  def people_on_the_way = find("dialog p", text: "on the way:").text[/\d+/].to_i

  it "proposes every edit, says who is touched and opens them, and takes effect when one says so" do
    open_running
    all("button[data-step]").last.click
    press "c"
    expect(page).to have_text("Proposed, not in effect. Last changed by you")
    expect(page).to have_css("strong", text: /\Anew\z/)
    click_button "Show it as it runs"
    expect(page).to have_no_css("strong", text: /\Anew\z/)
    expect(page).to have_no_button("Undo")
    click_button "Show what is proposed"
    click_button "Let this take effect…"
    expect(page).to have_css("dialog li", text: "come to one step more")
    numbers = all("dialog li").sum { |line| line.text.to_i }
    expect(numbers).to eq(people_on_the_way)
    row = find("dialog li", text: "come to one step more")
    count = row.text.to_i
    row.find("button").click
    expect(page).to have_css("dialog", text: "#{count} ")
    page.send_keys(:escape)
    accessible
    click_button "Let it take effect"
    expect(page).to have_text("It runs. What you change here is a proposal")
    expect(page).to have_no_css("strong", text: /\Anew\z/)
  end

  it "may be half said, which it says instead of taking effect, and is discarded in one move" do
    open_running
    add "Task", "step 1"
    expect(page).to have_css("strong, span", text: "nothing said to do")
    click_button "Let this take effect…"
    expect(page).to have_css("dialog li", text: "Step 2: nothing said to do")
    expect(page).to have_no_button("Let it take effect")
    click_button "Not yet"
    click_button "Discard it"
    expect(page).to have_text("It runs. What you change here is a proposal")
    expect(page).to have_no_text("nothing said to do")
  end

  it "is one proposal of colleagues: each is told what the other did, and nothing is lost" do
    open_running
    leave_on_nothing(page.current_path[/\d+/])
    # Refused: no new step comes to stand beside the plan.
    click_button "Add a step after step 1"
    within("[role=dialog]") { find("button", text: /\ATask/).click }
    expect(page).to have_css("[role=alert]", text: "Somebody else has changed this proposal meanwhile")
    expect(page).to have_text("Leave on nothing but unsubscribing")
    add "Task", "step 1"
    expect(page).to have_css("span", text: "nothing said to do")
    click_button "Discard it"
  end
end
