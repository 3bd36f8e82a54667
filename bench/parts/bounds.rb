# frozen_string_literal: true

require "commonmarker"

# Sixty kilobytes of what nobody writes, for everything that reads what people send. Linear or refused: each within about
# 200 ms.
module Bench
  BYTES = 60_000
  PAST_BEARING = 200 # ms

  # What breaks readers that look back: one sign over and over, openings without an end, nesting.
  SIGNS = ["[", "*a", "> ", "`", "![", "_a ", "<a ", "- ", "[a](", "{{", "{{ ", "a\n", "a\n\n", "\n", " ", "\\", "&", "<b>", "<p>a",
    "<div>", "<table>", "<a><p>", "<font><p>", "<ul><li>", "<span>a</span>", "<p class=MsoList>", "<svg>", "|a", "# a\n", "[a]: b\n",
    "${ ", "%a", "« ", "<<", "{{x}}", "{{first name}}"].freeze

  module_function

  def bounds
    readers = {"markdown" => ->(text) { markdown(text) }, "html" => ->(text) { page.read(text) }, "a document" => ->(text) { typed(text) },
               "plain text" => ->(text) { Core::Letters::Document.from_text(text) },
               "quotes cut" => ->(text) { Core::MailReading::QuoteCutter.call(text) },
               "a mail" => ->(text) { Files::MailFile.new("Subject: #{text[0, 900]}\r\n\r\n#{text}").words }}
    readers.each { |what, reader| report(what, SIGNS.to_h { |sign| [sign, sign * (BYTES / sign.bytesize)] }, reader) }
    report("a condition", conditions_of_ill_will, ->(json) { Core::Conditions::Parser.new.parse!(json) })
  end

  def report(what, inputs, reader)
    took = inputs.map { |sign, input| [milliseconds_of(reader, input), sign] }
    worst, sign = took.max
    over = took.count { |ms, _| ms > PAST_BEARING }
    remark = over.zero? ? "" : ", #{over} too slow"
    puts format("%-12s %3d inputs, the slowest %4.0f ms (%s)%s", what, took.size, worst, sign.inspect, remark)
  end

  def milliseconds_of(reader, input)
    Benchmark.realtime do
      reader.call(input)
    rescue Invalid
      nil
    end * 1000
  end

  def page = @page ||= Files::LetterHtml.new(Core::Fields::Standard.catalogue)

  def markdown(text) = page.read(CommonMarker.render_html(text, :UNSAFE, %i[table strikethrough]))

  def typed(text) =
    Core::Letters::Document.parse!(
      {"type" => "doc", "content" => [{"type" => "paragraph", "content" => [{"type" => "text", "text" => text}]}]}
    )

  def conditions_of_ill_will
    {
      "200,000 empty branches" => {"any" => [{"any" => []}] * 200_000},
      "10,000 levels" => (1..10_000).inject({"all" => []}) { |inner, _| {"not" => inner} },
      "a field of 60 kB" => {"field" => "x" * BYTES, "is" => "is"},
      "5 MB beside it" => {"any" => [], "remark" => "x" * 5_000_000}
    }
  end
end
