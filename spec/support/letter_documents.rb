# frozen_string_literal: true

# Builds documents of letters the way the editor writes them.
module LetterDocuments
  L = NimbleLetter::Core::Letters

  def doc(*blocks) = {"type" => "doc", "content" => blocks}

  def para(*words) = {"type" => "paragraph", "content" => words.map { |one| one.is_a?(String) ? {"type" => "text", "text" => one} : one }}

  def chip(field, fallback = nil, form = nil) =
    {"type" => "mergeField", "attrs" => {"field" => field, "fallback" => fallback, "form" => form}}

  def link(words, href, **attrs) =
    {"type" => "text", "text" => words, "marks" => [{"type" => "link", "attrs" => {"href" => href, **attrs.transform_keys(&:to_s)}}]}

  def words(text) = [{"type" => "text", "text" => text}]

  def shown_if(condition, yes, no = []) =
    {
      "type" => "conditional",
      "attrs" => {
        "condition" => condition
      },
      "content" => [{"type" => "side", "content" => yes}, {"type" => "side", "content" => no}]
    }

  def parsed(*blocks) = L::Document.parse!(doc(*blocks))

  # @return [Core::Letters::Merged]
  def merged(body, facts = {}, subject: "S", preview: "P", language: "en", passages: {}, **rest)
    parts = {
      subject: L::Document.from_text(subject),
      preview: L::Document.from_text(preview),
      body: body.is_a?(String) ? L::Document.from_text(body) : body
    }
    L::Merge.new(**parts, language: language, passages: passages).call(facts, **rest)
  end

  def text_of(...) = L::TextWriter.write(merged(...))

  def html_of(*given, designed: false, **rest) = L::HtmlWriter.new(designed: designed).write(merged(*given, **rest))
end

RSpec.configure { |config| config.include LetterDocuments }
