# frozen_string_literal: true

RSpec.describe "signing in, and out again" do
  let(:idris) { "idris@ternandfallow.example" }
  let(:another) { "felt over the door in spring" }

  def sign_in_as(email, password)
    fill_in "Your address", with: email
    fill_in "Password", with: password
    click_button "Sign in"
  end

  def sign_out
    visit "/settings"
    click_button "Sign out", match: :first
    expect(page).to have_button("Sign in")
  end

  def change_password(from, to)
    visit "/settings/sign-in"
    fill_in "The one you have", with: from
    fill_in "A new one", with: to
    click_button "Change it"
  end

  # An answer that was on its way brings the cookie back.
  def lose_the_session
    3.times do
      page.driver.browser.manage.delete_all_cookies
      break if page.has_css?("dialog[open]")
    end
  end

  it "asks for the password again where it was, and what was typed is there" do
    signed_in_as "maren"
    visit "/settings"
    fill_in "Its name", with: "Favourite chair"
    lose_the_session
    within("dialog[open]") do
      fill_in "Password of Maren Holt", with: "not this one at all"
      click_button "Sign in"
      expect(page).to have_css("[role=alert]", text: "do not belong together")
      fill_in "Password of Maren Holt", with: Demo::Firm::PASSWORD
      click_button "Sign in"
    end
    expect(page).to have_no_css("dialog[open]")
    expect(page).to have_field("Its name", with: "Favourite chair")
    expect(page).to have_css("nav[aria-label=Places]")
  end

  it "lets a colleague choose a password of their own and see where they are signed in" do
    signed_in_as "maren"
    sign_out
    sign_in_as(idris, Demo::Firm::PASSWORD)
    expect(page).to have_css("nav[aria-label=Places]")
    change_password("not it", another)
    expect(page).to have_css("[role=alert]", text: "This is not your password")
    change_password(Demo::Firm::PASSWORD, another)
    expect(page).to have_content("Your password is changed")
    expect(page).to have_css("td", text: "this one")
    expect(page).to have_no_css("h2", text: "Colleagues")

    sign_out
    sign_in_as(idris, Demo::Firm::PASSWORD)
    expect(page).to have_css("[role=alert]", text: "do not belong together")
    sign_in_as(idris, another)
    expect(page).to have_css("nav[aria-label=Places]")
    change_password(another, Demo::Firm::PASSWORD)
    expect(page).to have_content("Your password is changed")
    sign_out
    # The way in of who looks at the demo.
    click_button "Fill in Maren’s sign-in"
    click_button "Sign in"
    expect(page).to have_css("nav[aria-label=Places]", text: "Maren Holt")
  end

  it "shows an admin who works here and what matters to safety, for every eye and by keys alone" do
    signed_in_as "maren"
    visit "/settings/sign-in"
    click_button "Close the sign-in of Petra Lund"
    expect(page).to have_button("Open the sign-in of Petra Lund")
    expect(page).to have_css("td", text: "Petra Lund: sign-in closed")
    find_button("Open the sign-in of Petra Lund").send_keys(:enter)
    expect(page).to have_button("Close the sign-in of Petra Lund")
    select "signed in", from: "Show only"
    expect(page).to have_no_css("td", text: "sign-in closed")
    accessible
  end
end
