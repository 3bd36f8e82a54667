# frozen_string_literal: true

# What the specs of the writing desk share.
module AtTheDesk
  def text = find("[aria-label='Text of the letter']")

  # An empty letter, and the desk with it.
  def begin_letter
    signed_in_as "maren"
    visit "/letters/#{make_letter(manner: "plain")}"
    expect(page).to have_css("[aria-label='Text of the letter']")
  end

  def saved
    # What was typed a moment ago is on its way before it is told to be saved.
    expect(page).to have_no_css("[role=status]", text: "Saving…")
    expect(page).to have_css("[role=status]", text: /\ASaved/)
  end

  # The letter as the server has it.
  def stored = ask(:get, "/api/letters/#{page.current_path[/\d+/]}")

  def stored_words = stored["body"]["content"].map { |block| Core::Letters::Summary.of(block, Core::Fields::Standard.catalogue) }

  # What a colleague does on a page of her own.
  def as_petra
    path = page.current_path
    Capybara.using_session(:petra) do
      signed_in_as "petra"
      visit path
      yield
    end
  end

  def click_words(words) = find("button", text: words, match: :first).click

  def put_in(block)
    click_button "Add a block"
    within("[role=dialog]") { click_button block }
  end

  # Pastes as a browser does, without a clipboard.
  def paste(node, types)
    page.execute_script(<<~JS, node, types)
      const data = new DataTransfer()
      for (const [type, words] of Object.entries(arguments[1])) data.setData(type, words)
      arguments[0].dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
    JS
  end
end
