# frozen_string_literal: true

# What is longer, deeper or more than anybody writes is refused, and its error is short.
RSpec.describe "bounds" do
  def doc(*content) = {"type" => "doc", "content" => content}

  def words(text) = {"type" => "paragraph", "content" => [{"type" => "text", "text" => text}]}

  def refusal
    yield
    nil
  rescue Invalid => error
    expect(error.message.length).to be < 300
    error.code
  end

  let(:parser) { Core::Conditions::Parser.new }

  it "holds conditions to some hundred parts, empty ones too, and to what can be kept" do
    expect(refusal { parser.parse!({"any" => [{"any" => []}] * 200_000}) }).to eq(:condition_unclear)
    expect(refusal { parser.parse!({"all" => [{"any" => [{"not" => {"all" => []}}] * 300}]}) }).to eq(:condition_unclear)
    expect(refusal { parser.parse!({"any" => [], "remark" => "x" * 200_000}) }).to eq(:condition_unclear)
    expect(refusal { parser.parse!({"field" => "x" * 60_000, "is" => "is"}) }).to eq(:unknown_field)
    expect(refusal { parser.parse!({"field" => "person.city", "is" => "x" * 60_000}) }).to eq(:condition_unclear)
    expect(refusal { parser.parse!({"activity" => "x" * 60_000}) }).to eq(:condition_unclear)
    expect(refusal { parser.parse!({"any" => [{"all" => []}] * 400}) }).to be_nil
  end

  it "holds letters to some thousand parts" do
    expect(refusal { Core::Letters::Document.parse!(doc(*[{"type" => "paragraph"}] * 20_000)) }).to eq(:letter_too_long)
    expect(refusal { Core::Letters::Document.parse!(doc(words("{{first name}}" * 12_000))) }).to eq(:letter_too_long)
    expect(refusal { Core::Letters::Document.from_text("a\n" * 30_000) }).to eq(:letter_too_long)
    expect(refusal { Core::Letters::Document.parse!(doc({"type" => "x" * 60_000})) }).to eq(:letter_unclear)
    many = words("a")
    many["content"].first["marks"] = [{"type" => "bold"}] * 100
    expect(refusal { Core::Letters::Document.parse!(doc(many)) }).to eq(:letter_unclear)
    expect(refusal { Core::Letters::Document.parse!(doc(*[words("Dear {{first name}}")] * 1000)) }).to be_nil
  end

  it "takes no field for what is too long to be its name" do
    catalogue = Core::Fields::Standard.catalogue
    expect([catalogue.nearest("x" * 60_000), catalogue.nearest("frist name")&.key]).to eq([nil, "person.first_name"])
    expect(Core::Letters::TypedFields.new(catalogue).split("{{#{" " * 60_000}first name}}")).to eq(["{{#{" " * 60_000}first name}}"])
    expect(Core::Letters::TypedFields.new(catalogue).split("{{  first name  | there }}").first["attrs"]).to include(
      "field" => "person.first_name",
      "fallback" => "there"
    )
  end
end
