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
    expect(figures(other)).to include("planned" => 2, "skipped" => 2)
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

  describe "an out-of-office that names a day" do
    let(:away) {
      answer("I am away until 22 May, and read nothing until then.", :in_reply_to => "<#{letter.message_id}>",
        "Auto-Submitted" => "auto-replied")
    }
    let(:second) { Records::Delivery.first(sequence_id: sequence.id, state: "due") }

    it "moves the next letter to the working day after, in its window, and says so" do
      expect(second.due_at.to_date).to eq(Date.new(2026, 5, 15))
      take_in(away)

      # The 25th is a holiday.
      expect(second.refresh.due_at).to be_between(Time.utc(2026, 5, 26, 8), Time.utc(2026, 5, 26, 10, 30))
      expect(Web::MemberJson.rows(Records::Member.all).first).to include(away_until: "2026-05-22", next_at: second.due_at)
      expect(Web::HistoryWords.new(Records::Event.where(kind: "answered_automatically").all, moment).entries.first[:words]).to eq(
        "Answered automatically: away until 22 May 2026"
      )
    end

    it "holds for a letter that is written down later, and for what is reckoned" do
      Records::Person.where(id: person.id).update(away_until: Date.new(2026, 5, 22))
      other = start(make_sequence(people: [person.refresh]), at: now)
      reckoned = -> { Work::Ahead.new(other, moment(now)).call(other.members_dataset.all, {person.id => person}).values.first.values }
      # Its first letter was written down before anybody said so, as here it was by hand.
      Records::Delivery.where(sequence_id: other.id).update(due_at: now + 60)
      expect(reckoned.call.last.to_date).to eq(Date.new(2026, 5, 26))
      worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250"))).dispatch_due(now + 60)
      expect(Records::Delivery.first(sequence_id: other.id, state: "due").due_at).to eq(reckoned.call.last)
    end

    it "keeps nothing back any more once they are back" do
      Records::Person.where(id: person.id).update(away_until: Date.new(2026, 5, 1))
      expect(moment.known(person.refresh, sequence.plan).away_until).to be_nil
    end
  end

  it "keeps people in who asked nothing of the sort when the plan does not leave on a reply" do
    stays = Core::Journey::Plan.new(steps: sequence.plan.steps, leave_on: [])
    Records::FrozenPlan.where(sequence_id: sequence.id).update(tree: JSON.generate(Core::Journey::PlanJson.write(stays)))
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
    "latin1_without_charset.eml" => "The café would like a visit.",
    "html_only_with_script.eml" => "Yes, Tuesday is good."
  }.each do |name, words|
    it "reads #{name.delete_suffix(".eml").tr("_", " ")}" do
      expect(take_in(fixture(name)).text.strip).to start_with(words)
    end
  end

  it "loses nothing that is not mail at all" do
    expect(take_in(fixture("no_headers.eml"))).to have_attributes(kind: "unmatched")
  end

  describe "odd mail" do
    # What a person wrote stops the machine, whatever their mail program made of the rest.
    {
      "unknown_transfer_encoding.eml" => "Yes please, on Monday.",
      "raw_latin1_in_from.eml" => "Schön, am Montag.",
      "bytes_in_message_id.eml" => "Yes please.",
      "unknown_charset.eml" => "Yes please.",
      "content_type_of_garbage.eml" => "Yes please.",
      "two_from_headers_and_no_date.eml" => "Yes please.",
      "multipart_without_boundary.eml" => "Yes please."
    }.each do |name, words|
      it "is read as far as it goes: #{name.delete_suffix(".eml").tr("_", " ")}" do
        expect(take_in(fixture(name))).to have_attributes(kind: "reply", person_id: person.id, text: words)
        expect(Records::Member.first.left_reason).to eq("replied")
      end
    end

    it "is read as far as it goes: broken base64" do
      expect(take_in(fixture("broken_base64.eml"))).to have_attributes(kind: "reply", person_id: person.id)
    end

    it "is read with the name it came with, in the letters it was meant in" do
      expect(take_in(fixture("raw_latin1_in_from.eml"))).to have_attributes(from_name: "André Lark", subject: "Ja, schön")
    end

    it "is kept for somebody to look at when nobody wrote it" do
      expect(take_in(fixture("from_of_brackets_and_commas.eml"))).to have_attributes(kind: "unmatched", from_address: nil, sort: "new")
    end

    %w[mailer_daemon_without_address report_of_garbage].each do |name|
      it "is no answer of a person: #{name.tr("_", " ")}" do
        expect(take_in(fixture("#{name}.eml")).kind).to eq("automatic").or eq("bounce")
        expect(kinds).not_to include("replied")
        expect(person.refresh).to have_attributes(address_failed: false, do_not_mail: false)
      end
    end

    it "takes a complaint that names two recipients and returns a broken letter as a no" do
      expect(take_in(fixture("complaint_with_two_recipients.eml"))).to have_attributes(kind: "unsubscribe", person_id: person.id)
      expect(person.refresh.do_not_mail).to be(true)
    end

    it "marks no address because its mailbox is full" do
      expect(take_in(fixture("mailbox_full_report.eml")).kind).to eq("bounce")
      expect(person.refresh.address_failed).to be(false)
      expect(Records::Member.first.state).to eq("active")
      expect(kinds).to include("bounced_softly")
    end

    it "may be nested until the stack ends" do
      deep = (0...3000).map { |n| "Content-Type: multipart/mixed; boundary=\"b#{n}\"\r\n\r\n--b#{n}\r\n" }.join
      raw = "From: ana@copperladle.example\r\nSubject: Re: deep\r\nMessage-ID: <deep@x.example>\r\n#{deep}\r\nYes, from far below.\r\n"

      expect(take_in(raw)).to have_attributes(person_id: person.id, kind: "reply")
    end

    it "may be larger than any column: its words are read, and all of it stays in the folder" do
      raw = "#{answer("Yes please.")}\r\n\r\n#{"x" * 76}\r\n".b + "#{"0123456789" * 8}\r\n".b * 250_000
      incoming = take_in(raw)

      expect(raw.bytesize).to be > 17_000_000
      expect(incoming).to have_attributes(kind: "reply", text: a_string_starting_with("Yes please."))
      expect(Dir[File.join(maildir.path, "cur", "*")].map { |path| File.size(path) }).to eq([raw.bytesize])
    end

    it "may have a date beyond reading, or headers that are none" do
      raw = answer("Yes please.")
      long = raw.sub(/^Subject:/, "Date: #{"On " * 900}\r\nResent-Date: #{"x" * 200}\r\nSubject:")
      expect(take_in(long)).to have_attributes(kind: "reply", person_id: person.id, text: "Yes please.")

      none = raw.sub(/^Message-ID.*$/i, "Message-ID: <other@x>").b.sub("Subject:", "\xFF\x01: x\r\n: \r\nMIME Version: 1\r\nSubject:".b)
      expect(take_in(none)).to have_attributes(kind: "reply", person_id: person.id)
    end

    it "may be made to keep a quote cutter busy" do
      expect(take_in(answer("On " * 20_000))).to have_attributes(kind: "reply", person_id: person.id)
    end
  end

  describe "a reply that names no letter" do
    it "answers the last one its sender had, in status and figures too" do
      expect(take_in(answer("Come on Tuesday."))).to have_attributes(delivery_id: delivery.id)
      expect(Records::Member.first).to have_attributes(status: "answered", left_reason: "replied")
      expect(figures(sequence)).to include("replied" => 1)
    end

    it "answers none when the last one was long ago" do
      late = delivery.due_at + Core::MailReading::Thread::REMEMBERED_SECONDS + 86_400
      incoming = take_in(answer("Do you remember me?"), at: late)

      expect(incoming).to have_attributes(delivery_id: nil, person_id: person.id, kind: "reply")
      expect(figures(sequence)).to include("replied" => 0)
      expect(kinds).to include("replied")
    end
  end

  describe "a piece that cannot be worked on" do
    # As long as its person cannot be found, whatever the reason.
    def break_it
      allow(Post::Matching).to receive(:by_thread).and_wrap_original do |original, candidates|
        raise KeyError, "no such thing" if candidates.include?("broken@x.example")

        original.call(candidates)
      end
    end

    before do
      break_it
      maildir.deliver(answer("First.", in_reply_to: "<broken@x.example>"))
      take_in(answer("Second."))
    end

    it "is set aside with its reason and its beginning, and the next one is taken in" do
      aside = Records::SetAside.first

      expect(Records::Incoming.select_map(:text)).to eq(["Second."])
      expect(aside).to have_attributes(kind: "mail", tries: 1, reason: "key error: no such thing")
      expect(aside.source).to include("First.")
      expect(maildir.waiting).to be_empty
      expect(Post::Intake.new(maildir: maildir).round(moment)).to eq(0)
    end

    it "is tried again when somebody says so, and counts its tries" do
      Work::TakeUp.new(Records::SetAside.first, moment).again
      Post::Intake.new(maildir: maildir).round(moment)
      expect(Records::SetAside.first).to have_attributes(tries: 2, again: false)

      allow(Post::Matching).to receive(:by_thread).and_call_original
      Work::TakeUp.new(Records::SetAside.first, moment).again
      Post::Intake.new(maildir: maildir).round(moment)
      expect([Records::SetAside.count, Records::Incoming.select_map(:text)]).to eq([0, ["Second.", "First."]])
    end

    it "is left in its folder when somebody says so" do
      Work::TakeUp.new(Records::SetAside.first, moment).leave

      expect(Records::SetAside.count).to eq(0)
      expect(Dir.children(File.join(maildir.path, "aside")).size).to eq(1)
    end
  end

  it "takes a database that is away for nobody's fault" do
    allow(Records::Incoming).to receive(:create).and_raise(Sequel::DatabaseDisconnectError, "gone")
    maildir.deliver(answer("Yes."))

    expect { Post::Intake.new(maildir: maildir).round(moment) }.to raise_error(Sequel::DatabaseDisconnectError)
    expect([Records::SetAside.count, maildir.waiting.size]).to eq([0, 1])
  end
end
