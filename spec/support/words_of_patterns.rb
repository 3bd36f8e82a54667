# frozen_string_literal: true

require "capybara/rspec"

# Capybara lets the page leave out what does not have the words that are looked for, but not those of a pattern: then it asks for the text
# of one element after the other, 15 ms each. What a pattern cannot do without is told to the page too.
module WordsOfPatterns
  def text_fragments
    pattern = matching_text
    return super unless pattern.is_a?(Regexp)

    Capybara::Selector::RegexpDisassembler.new(pattern).substrings.flat_map(&:split)
  end
end

Capybara::Queries::SelectorQuery.prepend(WordsOfPatterns)
