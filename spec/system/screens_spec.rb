# frozen_string_literal: true

RSpec.describe "the screens" do
  before { sign_in_as_maren }

  # @yield when the person stands beside the table
  def open_first_person
    visit "/people"
    page.execute_script("sessionStorage.clear()")
    visit "/people"
    find("[role=row][aria-rowindex='2']").click
    expect(page).to have_link("Open the record")
    yield if block_given?
    click_link "Open the record"
  end

  def running = find("a", text: "Quieter dining rooms", match: :first)

  screens = {
    "Today" => "/",
    "People" => "/people",
    "Letters" => "/letters",
    "Passages" => "/passages",
    "Pictures" => "/pictures",
    "Practice post" => "/practice-post",
    "Sequences" => "/sequences",
    "Replies" => "/replies",
    "Results" => "/results",
    "Settings" => "/settings",
    "Companies" => "/companies",
    "Lists" => "/lists",
    "Doubles" => "/doubles",
    "Files" => "/files",
    "Bin" => "/bin",
    "Set aside" => "/set-aside"
  }

  # What is not a matter of colours is the same in both.
  all, colours = %i[according_to wcag2a wcag2aa wcag21aa wcag22aa], %i[checking_only color-contrast link-in-text-block]
  {"Light" => all, "Dark" => colours}.each do |look, rules|
    it "have nothing serious to mend for anybody who cannot see them well, in #{look.downcase}" do
      clean = -> { expect(page).to be_axe_clean.public_send(*rules) }
      visit "/settings"
      click_button look
      screens.each_value do |path|
        visit path
        expect(page).to have_css("h1")
        expect(page).to have_no_css("[role=status][aria-label=Loading]")
        clean.call
      end
      open_first_person(&clean)
      expect(page).to have_css("section[aria-label=History] ol")
      clean.call
      visit "/letters"
      find("tbody a", match: :first).click
      expect(page).to have_css("iframe")
      clean.call
      visit "/sequences"
      running.click
      expect(page).to have_css("aside iframe")
      clean.call
      %w[Members Results].each do |tab|
        click_link tab, exact: false, match: :first, href: %r{/sequences/\d+/}
        expect(page).to have_css("tbody tr")
        clean.call
      end
      visit "/sequences"
      running.click
      click_link "See all", exact: false
      expect(page).to have_css("iframe")
      clean.call
    end
  end

  it "are reached without a mouse, by places, palette and keys" do
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
    sign_in_as_maren
  end

  it "hold all post with one move and release it with another" do
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

  it "show no page that the policy forbids anything on" do
    messages = page.driver.browser.logs.get(:browser).map(&:message).grep(/Content.Security.Policy|Uncaught/)

    expect(messages).to eq([])
  end
end
