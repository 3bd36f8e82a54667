# frozen_string_literal: true

RSpec.describe "two workers beside each other", :processes do
  it "take each piece of mail in once from the same folder, and neither ends" do
    person = make_person(email: "ana@copperladle.example")
    sequence = start(make_sequence(people: [person]), at: now - 3600)
    maildir = Post::Maildir.new(configuration.maildir)
    clock.set(now)
    children = Processes::Children.new(configuration)
    2.times { |n| children.start("worker", as: "worker #{n}") }
    40.times do |n|
      # Each comes twice, under two names.
      2.times { maildir.deliver("From: ana@copperladle.example\r\nSubject: #{n}\r\nMessage-ID: <#{n}@x.example>\r\n\r\nYes, #{n}.\r\n") }
    end
    wait_until("all mail is taken in") { maildir.waiting.empty? }

    expect(Records::Incoming.select_map(:subject).sort).to eq(Array.new(40, &:to_s).sort)
    expect(Records::Event.where(kind: "replied").count).to eq(40)
    expect(Records::SetAside.count).to eq(0)
    expect(children.look_after).to eq([])
    expect(sequence.refresh.state).to eq("ended")
  ensure
    children&.stop
  end
end
