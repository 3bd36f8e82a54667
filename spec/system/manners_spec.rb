# frozen_string_literal: true

require "vips"

RSpec.describe "a designed letter" do
  include AtTheDesk

  let(:picture) do
    path = File.join(folder_of_files, "the room.png")
    (Vips::Image.black(900, 400, bands: 3) + [40, 110, 100]).cast(:uchar).copy(interpretation: :srgb).write_to_file(path)
    path
  end

  it "is written from nothing, sent as a test and read in the mail viewer" do
    signed_in_as "maren"
    visit "/letters"
    press "b"
    click_button "Empty, designed"
    find("[aria-label=Subject]").send_keys("For {{first name|you}}")
    text.send_keys("Dear {{first name|you}},", :enter)
    put_in("Picture…")
    within("dialog") { attach_file("Picture file", picture, make_visible: true) }
    expect(page).to have_css(".ProseMirror figure img")
    click_button "Picture", exact: true
    find("[aria-label='What it shows']").send_keys("A room in {{city|town}}")
    find("[aria-label='What it shows']").send_keys(:escape)
    text.send_keys([:control, :end], :enter)
    put_in("Button")
    expect(page).to have_css(".letter-button", text: "Read on")
    click_button "Address of the button"
    find("[aria-label=Address]").send_keys("https://ternandfallow.example/a?c={{company|none}}&d={{comp")
    # The menu is in front of the field one types in.
    offered = find("[role=listbox] [role=option]", text: "Company", match: :first)
    in_front = page.evaluate_script("(({left, top, width, height}) => arguments[0].contains(document.elementFromPoint(left + width / 2, " \
                                    "top + height / 2)))(arguments[0].getBoundingClientRect())", offered)
    expect(in_front).to be(true)
    find("[aria-label=Address]").send_keys(:enter)
    find("[aria-label=Address]").send_keys(:escape)
    saved
    on_the_sheet do
      expect(page).to have_css("img[alt^='A room in']")
      expect(page).to have_css("table.sheet a", text: "Read on")
    end
    accessible

    click_button "Send a test"
    click_link "Read it"
    expect(page).to have_css("h2", text: /\ATest: For /)
    within_frame(find("iframe[title='Letter as shown']")) { expect(page).to have_css("td a", text: "Read on") }
    click_button "Text"
    expect(page).to have_css("pre", text: /\[A room in .+\]\s+Read on: https:/m)
    click_button "Source"
    expect(page).to have_css("pre", text: "X-Nimble-Test: yes")
    accessible
  end

  it "keeps its words when it turns plain" do
    signed_in_as "maren"
    visit "/letters/#{letter_named("Spring from the workshop")}"
    on_the_sheet { expect(page).to have_css("table.sheet") }
    click_button "Plain"
    saved
    on_the_sheet do
      expect(page).to have_no_css("table.sheet")
      expect(page).to have_text(/New felt/)
      expect(page).to have_text("Listen to before and after")
    end
    click_button "Designed"
    saved
  end
end

RSpec.describe "a letter that speaks to some people differently" do
  include AtTheDesk

  it "asks in a sentence, says how many read which side, and shows it in the stack" do
    begin_letter
    find("[aria-label=Subject]").send_keys("A question")
    text.send_keys("Dear all", :enter)
    put_in("Only for some people")
    expect(page).to have_css(".letter-conditional")
    find(".letter-conditional .word").click
    within("dialog") do
      click_button "And…"
      within("[role=dialog]") do
        fill_in "What to ask about", with: "city is York"
        find_field("What to ask about").send_keys(:enter)
      end
      click_button "Shown to them"
    end
    expect(page).to have_css(".letter-conditional", text: /Shown to everyone who is in York · \d+ of \d+ read it/)
    find(".letter-side:first-child p").click
    find(".letter-side:first-child p").send_keys("near us")
    find(".letter-side:last-child p").click
    find(".letter-side:last-child p").send_keys("far away")
    saved
    expect(stored_words[1]).to eq("near us far away")
  end
end
