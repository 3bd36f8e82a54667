# frozen_string_literal: true

# Every route of the contract, as nobody, as a colleague and as an admin, against the table that people read.
RSpec.describe "who may do what" do
  let(:examples) { ContractExamples.new }
  let(:kinds) { %w[nobody colleague admin] }
  let(:refusals) { [401, 403] }
  # From docs/SECURITY.md: a row for each exception, and one for all others.
  let(:table) do
    rows = File.readlines(File.join(ROOT, "docs/SECURITY.md")).grep(/\A\| (`[A-Z]+ \/|all others)/)
    rows.to_h do |row|
      route, *answers = row.split("|").map(&:strip).reject(&:empty?)
      [route.delete("`"), kinds.zip(answers.first(3).map { |words| words == "yes" }).to_h]
    end
  end

  def there(path)
    numbers = {"/mailboxes/" => @box.id, "/colleagues/" => @other.id, "/signatures/" => @other.id, "/fields/" => @field.id,
               "/sessions/" => Records::Session.max(:id)}
    id = numbers.find { |part, _| path.include?(part) }
    path.gsub(/\{(\w+)\}/) { ($1 == "kind") ? "account" : (id&.last || 1).to_s }
  end

  def let_in?(route)
    body = route.body && JSON.generate(examples.least(route.body))
    Records.db.transaction(savepoint: true, rollback: :always) { public_send(route.verb.downcase, there(route.path), body) }
    !refusals.include?(last_response.status)
  end

  before do
    @box = make_mailbox
    @other = make_account(name: "Somebody else", email: nil)
    @field = Records::CustomField.create(
      subject: "person",
      name: "shoe_size",
      label: "Shoe size",
      type: "number",
      made: false,
      created_at: now,
      updated_at: now
    )
  end

  def as(kind)
    elsewhere
    sign_in(colleague(role: kind)) unless kind == "nobody"
  end

  it "is as docs/SECURITY.md says, for every route of the contract" do
    wrong = kinds.flat_map do |kind|
      as(kind)
      examples.routes.filter_map do |route|
        expected = table.fetch(route.to_s, table.fetch("all others"))[kind]
        "#{kind}, #{route}: #{last_response.status}" if let_in?(route) != expected
      end
    end

    expect(wrong).to eq([])
  end

  it "names no route that is not there" do
    expect(table.keys - ["all others"] - examples.routes.map(&:to_s)).to eq([])
  end
end
