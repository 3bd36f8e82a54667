# frozen_string_literal: true

require "erb"

# Letters brought together and written out, as the worker does it, beside the same words in a template written by hand.
module Bench
  LETTERS = 10_000

  # The least that anybody would have to do: escape five values into a page.
  TEMPLATE = ERB.new(<<~HTML)
    <!doctype html><html lang="en"><head><title>For <%= h(f["person.first_name"]) %></title></head><body>
    <% 2.times do %><p style="margin:0 0 1em 0">Dear <%= h(f["person.first_name"]) %>, how is the room of
    <%= h(f["company.name"]) %> in <%= h(f["person.city"]) %>? <a
    href="https://a.example/x">Listen</a>, says <%= h(f["owner.name"]) %> on <%= h(f["today.date"].to_s) %>.</p><% end %>
    <% 4.times do %><p style="margin:0 0 1em 0"><%= h(PLAIN_WORDS) %></p><% end %>
    </body></html>
  HTML

  module_function

  def h(text) = CGI.escapeHTML(text)

  def rendering
    with_database("nimble_letter_bench_rendering", fresh: true) do
      facts =
        Array.new(LETTERS) do |n|
          {
            "person.first_name" => "Ana #{n}",
            "company.name" => "Pike & Parsley #{n}",
            "person.city" => "York",
            "owner.name" => "Idris Vale",
            "today.date" => TODAY
          }
        end
      by_hand = Benchmark.realtime { facts.each { |f| TEMPLATE.result(binding_with(f)) } }
      puts format("by hand, HTML only: %.2f s for %d letters", by_hand, LETTERS)
      {"plain" => plain_letter, "designed, with a passage for some" => designed_letter}.each do |what, letter|
        setting = Work::Typesetting.new(letter, firm: Records::Firm.new, base_url: "https://letters.example")
        merge = letter.merge
        seconds = Benchmark.realtime do
          facts.each_with_index do |f, n|
            merged = merge.call(f, shown: ->(_) { n.even? })
            setting.html(merged, nil)
            setting.text(merged, nil)
          end
        end
        puts format("%s: %.2f s for %d letters, HTML and text (%.1f times by hand)", what, seconds, LETTERS, seconds / by_hand)
      end
      stack
    end
  end

  def binding_with(f) = binding

  # The list of a stack of thousands, its first page, with gaps and sides of all.
  def stack
    require_relative "../../spec/support/builders_alone"
    extend ::Builders

    people =
      Array.new(LETTERS) do |n|
        Records::Person.with_folds(
          {
            first_name: "Ana",
            last_name: "Lark #{n}",
            email: "bench#{n}@house.example",
            city: n.odd? ? "York" : nil,
            standing: "lead",
            consent: "yes",
            created_at: NOW,
            updated_at: NOW
          }
        )
      end
    Records.db[:people].multi_insert(people, slice: 1000)
    sequence = make_sequence(people: [], letters: [designed_letter])
    sequence.update(audience: {"condition" => {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}})
    milliseconds = Benchmark.realtime { Work::StackList.new(sequence.steps.first, moment).call } * 1000
    puts format("a stack of %d letters, listed with its marks: %.0f ms", LETTERS, milliseconds)
    person = Records::Person.order(:id).first
    puts format(
      "one letter of it, as HTML: %.0f ms",
      median { Work::Stack.new(Records::Step[sequence.steps.first.id], moment).html(person) }
    )
  end

  def chip(field, fallback = nil) = {"type" => "mergeField", "attrs" => {"field" => field, "fallback" => fallback, "form" => nil}}

  def words(text) = {"type" => "text", "text" => text}

  def paragraph =
    {
      "type" => "paragraph",
      "content" => [
        words("Dear "),
        chip("person.first_name"),
        words(", how is the room of "),
        chip("company.name", "yours"),
        words(" in "),
        chip("person.city"),
        words("? "),
        words("Listen").merge("marks" => [{"type" => "link", "attrs" => {"href" => "https://a.example/x"}}]),
        words(", says "),
        chip("owner.name", "Idris"),
        words(" on "),
        chip("today.date"),
        words(".")
      ]
    }

  PLAIN_WORDS =
    "Every dining room has a table that nobody asks for twice. It is rarely the draught. It is the one where you hear the next party " \
    "better than your own, and most rooms can be mended without changing how they look."

  def plain_paragraph = {"type" => "paragraph", "content" => [words(PLAIN_WORDS)]}

  def bench_letter(manner, blocks)
    line = {"type" => "doc", "content" => [{"type" => "paragraph", "content" => [words("For "), chip("person.first_name")]}]}
    Work::WriteLetter.new(Work::Moment.new(now: NOW)).make(
      name: manner,
      manner: manner,
      subject: line,
      preview: line,
      body: {
        "type" => "doc",
        "content" => blocks
      }
    )
  end

  def plain_letter = bench_letter("plain", [paragraph, *Array.new(4) { plain_paragraph }, paragraph])

  def designed_letter
    side = ->(blocks) { {"type" => "side", "content" => blocks} }
    bench_letter(
      "designed",
      [
        {"type" => "heading", "attrs" => {"level" => 1}, "content" => [words("Spring")]},
        paragraph,
        *Array.new(3) { plain_paragraph },
        {
          "type" => "conditional",
          "attrs" => {
            "condition" => {
              "field" => "person.city",
              "is" => "one_of",
              "value" => ["York"]
            }
          },
          "content" => [side.call([paragraph]), side.call([plain_paragraph])]
        },
        {
          "type" => "button",
          "attrs" => {
            "href" => [words("https://a.example/?c="), chip("company.name", "none")]
          },
          "content" => [words("Listen")]
        },
        {
          "type" => "columns",
          "content" => [{"type" => "column", "content" => [plain_paragraph]}, {"type" => "column", "content" => [plain_paragraph]}]
        }
      ]
    )
  end
end
