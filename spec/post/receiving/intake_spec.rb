# frozen_string_literal: true

RSpec.describe "taking in what came back" do
  let(:maildir) { Post::Maildir.new(configuration.maildir) }
  let(:person) { make_person(email: "ana@copperladle.example") }
  let!(:sequence) { start(make_sequence(people: [person]), at: now - 3600) }
  let(:delivery) { Records::Delivery.first(sequence_id: sequence.id) }
  let(:letter) { Mail.new(@sent) }

  before do
    FileUtils.rm_rf(configuration.maildir)
    transport = ToldTransport.new(Post::Outcomes::Accepted.new("250"))
    worker(transport: transport).dispatch_due(delivery.due_at)
    @sent = transport.delivered.first[:raw]
  end

  def take_in(raw, at: now + 7200)
    maildir.deliver(raw)
    Post::Intake.new(maildir: maildir).round(moment(at))
    Records::Incoming.order(:id).last
  end

  def fixture(name) = File.binread(File.join(ROOT, "spec/fixtures/mail", name))

  def kinds = Records::Event.where(person_id: person.id).order(:id).select_map(:kind)

  def answer(words, **headers)
    Mail.new(
      charset: "UTF-8",
      from: "Ana Lark <ana@copperladle.example>",
      to: "maren@ternandfallow.example",
      subject: "Re: A word",
      body: words,
      message_id: "<#{number}@copperladle.example>",
      **headers
    ).encoded
  end

  it "matches a reply by its thread, cuts the quotes, and takes the member out before the second letter" do
    incoming =
      take_in(
        answer(
          "Come on Tuesday.\n\nOn 12 May 2026, 9:24, Maren wrote:\n> Dear Ana,\n> How is York?",
          in_reply_to: "<#{letter.message_id}>",
          from: "ana@elsewhere.example"
        )
      )

    expect(incoming).to have_attributes(
      kind: "reply",
      person_id: person.id,
      delivery_id: delivery.id,
      text: "Come on Tuesday.",
      sort: "new"
    )
    expect(Records::Member.first).to have_attributes(state: "left", left_reason: "replied", status: "answered")
    expect(figures(sequence)).to include("sent" => 1, "skipped" => 1, "due" => 0, "replied" => 1)
    expect(sequence.refresh.state).to eq("ended")
  end

  it "stops every sequence of somebody who answers, by address when the thread is lost" do
    other = start(make_sequence(people: [person]), at: now)
    incoming = take_in(answer("Who are you writing as?"))

    expect(incoming.person_id).to eq(person.id)
    expect(Records::Member.select_map(:state).uniq).to eq(["left"])
    expect(states(other)).to eq("skipped" => 2)
  end

  it "knows somebody who answers from another of their addresses" do
    Records::PersonAddress.create(person_id: person.id, email: "ana@home.example")

    expect(take_in(answer("Come on Tuesday.", from: "ANA@home.example")).person_id).to eq(person.id)
  end

  it "tells an out-of-office apart: nobody leaves, nothing counts as a reply" do
    incoming = take_in(answer("I am away.", :in_reply_to => "<#{letter.message_id}>", "Auto-Submitted" => "auto-replied"))

    expect(incoming.kind).to eq("automatic")
    expect(Records::Member.first.state).to eq("active")
    expect(figures(sequence)).to include("replied" => 0, "due" => 1)
  end

  it "keeps people in who asked nothing of the sort when the plan does not leave on a reply" do
    Records::Sequence.where(id: sequence.id).update(leave_on: "[]")
    take_in(answer("Thanks.", in_reply_to: "<#{letter.message_id}>"))

    expect(Records::Member.first).to have_attributes(state: "active", status: "answered")
  end

  it "takes a written no for good" do
    take_in(answer("Please take me off your list.", in_reply_to: "<#{letter.message_id}>"))

    expect(person.refresh.do_not_mail).to be(true)
    expect(Records::Member.first.left_reason).to eq("unsubscribed")
  end

  it "reads a bounce and remembers the address" do
    take_in(Practice::ReplyMail.bounce(letter, person.email, now))

    expect(Records::Incoming.last).to have_attributes(kind: "bounce", delivery_id: delivery.id)
    expect(person.refresh.address_failed).to be(true)
    expect(kinds).to include("bounced", "left")
  end

  it "takes a complaint (RFC 5965) as a no" do
    take_in(fixture("complaint.eml").gsub("ADDRESS", person.email).gsub("MESSAGE-ID", letter.message_id))

    expect(kinds).to include("complained")
    expect(person.refresh.do_not_mail).to be(true)
  end

  it "keeps a reply that matches nothing, for somebody to look at" do
    incoming = take_in(answer("Hello?", from: "stranger@nowhere.example"))

    expect(incoming).to have_attributes(kind: "unmatched", person_id: nil, sort: "new", from_address: "stranger@nowhere.example")
    expect(kinds).not_to include("replied")
  end

  it "takes the same mail in once, even after being killed in between" do
    raw = answer("Yes.", in_reply_to: "<#{letter.message_id}>")
    2.times { take_in(raw) }
    name = maildir.deliver(answer("Another."))
    Records::Incoming.create(file_key: name, kind: "reply", text: "Another.", raw: Sequel.blob(""), received_at: now, updated_at: now)
    Post::Intake.new(maildir: maildir).round(moment)

    expect(kinds.count("replied")).to eq(1)
    expect(maildir.waiting).to be_empty
  end

  {
    "latin1_without_charset.eml" => "The caf� would like a visit.",
    "html_only_with_script.eml" => "Yes, Tuesday is good."
  }.each do |name, words|
    it "reads #{name.delete_suffix(".eml").tr("_", " ")}" do
      expect(take_in(fixture(name)).text.strip).to start_with(words)
    end
  end

  it "loses nothing that is not mail at all" do
    expect(take_in(fixture("no_headers.eml"))).to have_attributes(kind: "unmatched")
  end
end
