# frozen_string_literal: true

RSpec.describe "the screens" do
  before { signed_in_as "maren" }

  # @yield when the person stands beside the table
  def open_first_person
    visit "/people"
    find("[role=row][aria-rowindex='2']").click
    expect(page).to have_link("Open the record")
    yield if block_given?
    click_link "Open the record"
  end

  def first_step(sequence) = ask(:get, "/api#{sequence}")["steps"].first.fetch("id")

  def running = "/sequences/#{sequence_named("Quieter dining rooms")}"

  let(:screens) do
    %w[/ /people /letters /passages /pictures /practice-post /sequences /replies /results /settings /companies /lists /doubles /files] +
      %w[/bin /settings/sign-in /set-aside]
  end

  # The page as it stands, and then in the other theme, where only colours are another matter.
  def accessible_in_both
    accessible
    page.execute_script("document.documentElement.dataset.theme = 'night'")
    accessible(of: be_axe_clean.checking_only(:"color-contrast", :"link-in-text-block"))
    page.execute_script("document.documentElement.dataset.theme = 'desk'")
  end

  it "have nothing serious to mend for anybody who cannot see them well, light or dark" do
    screens.each do |path|
      visit path
      expect(page).to have_css("h1")
      expect(page).to have_no_css("[role=status][aria-label=Loading]")
      accessible_in_both
    end
    open_first_person { accessible_in_both }
    expect(page).to have_css("section[aria-label=History] ol")
    accessible_in_both
    {
      "/letters/#{letter_named("Spring from the workshop")}" => "iframe",
      running => "aside iframe",
      "#{running}/members" => "tbody tr",
      "#{running}/results" => "tbody tr",
      "/stack/#{first_step(running)}" => "iframe"
    }.each do |path, there|
      visit path
      expect(page).to have_css(there)
      accessible_in_both
    end
  end

  it "turn dark for who wants them so, and stay it" do
    visit "/settings"
    click_button "Dark"
    expect(page).to have_css("html[data-theme=night]")
    visit "/people"
    expect(page).to have_css("html[data-theme=night]")
  end

  it "are reached without a mouse, by places, palette and keys" do
    visit "/"
    press "?"
    expect(page).to have_css("dialog", text: "Find anything")
    press :escape
    expect(page).to have_no_css("dialog")
    press [:control, "k"]
    find("[cmdk-input]").send_keys("dining rooms")
    expect(page).to have_css("[cmdk-item]", text: "Quieter dining rooms")
    find("[cmdk-input]").send_keys(:enter)
    expect(page).to have_css("[aria-label='Name of the sequence']")
    press "r"
    expect(page).to have_text("What we say of them")
  end

  it "say what happened when a sign-in is broken" do
    visit "/settings"
    click_button "Sign out"
    fill_in "Your address", with: "maren@ternandfallow.example"
    fill_in "Password", with: "wrong"
    click_button "Sign in"

    expect(page).to have_css("[role=alert]", text: "This address and password do not belong together.")
    expect(page).to have_field("Your address", with: "maren@ternandfallow.example")
    fill_in "Password", with: Demo::Firm::PASSWORD
    click_button "Sign in"
    expect(page).to have_css("nav[aria-label=Places]")
  end

  it "hold all post with one move and release it with another" do
    visit "/"
    click_button "Hold all post"
    expect(page).to have_text("All post is held, by Maren")
    expect(page).to have_button("Release all post")
    click_button "Release all post"
    expect(page).to have_text("Next")
  end

  it "open the people behind each number of the sieve, and the number agrees" do
    visit "/people"
    row = find("section[aria-label='Who a letter would reach'] button", text: "no address")
    count = row.text[/\d+/]
    row.click
    expect(page).to have_css("dialog", text: "#{count} people")
    within("dialog") { find("a", match: :first).click }
    expect(page).to have_css("h1")
    expect(page).to have_text("no address")
  end

  it "mend a record in place and show who changed it" do
    open_first_person
    fill_in "City", with: "Robin Hood's Bay"
    find_field("City").send_keys(:enter)

    expect(page).to have_css("ol", text: /City: .* → Robin Hood's Bay · Maren Holt/)
    fill_in "Address", with: "no address at all"
    find_field("Address").send_keys(:enter)
    expect(page).to have_css("[role=alert]", text: "This does not look like an address.")
    expect(page).to have_field("Address", with: "no address at all")
  end
end
