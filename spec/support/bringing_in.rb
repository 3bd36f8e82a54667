# frozen_string_literal: true

# Files of people, from receiving them to having them taken in.
RSpec.shared_context "with files that are brought in" do
  around { |example| Dir.mktmpdir { |folder| (@folder = folder) && example.run } }

  let(:maren) { make_account }
  let(:at) { moment(account: maren) }
  let(:receiving) { Work::ReceiveImport.new(@folder, at) }
  let(:clerk) { Work::Clerk.new(@folder, Records::Owner.new(configuration)) }

  def receive(text, name: "people.csv") = receiving.receive(StringIO.new(text), name: name)

  def check(import, matching: receiving.columns(import).map { |column| column[:field] }, **options)
    Work::StartImport.check(import, matching, options.transform_keys(&:to_s), version: import.version, folder: @folder, moment: at)
    clerk.finish(now)
    import.refresh
  end

  def take(import, choices = {})
    Work::StartImport.take(import, choices.transform_keys(&:to_s), version: import.version, moment: at)
    clerk.finish(now)
    import.refresh
  end

  def bring(text, choices = {}, **options) = take(check(receive(text), **options), choices)

  def rows(import, verdict) = Web::ImportJson.rows(import, verdict, after: 0, limit: 100)[:rows]

  def person(email) = Records::Person.first(email: email)
end
