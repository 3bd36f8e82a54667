# frozen_string_literal: true

RSpec.describe "practice mode" do
  let(:temperaments) { Array.new(4000) { |n| Practice::Temperament.of("person#{n}@house.example", 7) } }

  it "gives every address one temperament, in the stated shares" do
    expect(temperaments).to eq(Array.new(4000) { |n| Practice::Temperament.of("person#{n}@house.example", 7) })
    shares = temperaments.tally.transform_values { |count| count * 1000 / 4000.0 }
    Practice::Temperament::SHARES.each do |temperament, share|
      expect(shares.fetch(temperament)).to be_within(25).of(share), temperament.to_s
    end
  end

  it "takes an address at its word" do
    expect(Practice::Temperament.of("dropping+x@y.example", 7)).to eq(:dropping)
  end

  it "never turns the clock back" do
    clock = Practice::Clock.new
    clock.set(now)

    expect { clock.advance_to(now - 1) }.to raise_error(Invalid)
    clock.advance_to(now + 60)
    expect(clock.target).to eq(now + 60)
    expect([clock.move_to(now + 60), clock.move_to(now + 30), clock.now]).to eq([now + 60] * 3)
  end

  it "forgets no wish that came while it was arriving" do
    clock = Practice::Clock.new
    clock.set(now)
    clock.advance_to(now + 60)
    clock.advance_to(now + 90)
    clock.arrive(now + 60)
    expect(clock.target).to eq(now + 90)
    clock.arrive(now + 90)
    expect(clock.target).to be_nil
  end

  it "has opened a letter by its pixel, whatever pictures come before" do
    raw =
      "From: a@b.example\r\nMIME-Version: 1.0\r\nContent-Type: multipart/alternative; boundary=z\r\n\r\n" \
      "--z\r\nContent-Type: text/plain\r\n\r\nHi\r\n--z\r\nContent-Type: text/html\r\n\r\n" \
      "<img src=\"http://127.0.0.1:1/p/sign.png\"><p>Hi</p><img src=\"http://127.0.0.1:1/o/t\">\r\n--z--\r\n"
    reactions = Practice::Character.new(raw, address: "scanned+x@y.example", at: now, seed: 1).reactions
    expect(reactions.find { |one| one.kind == "open" }.data["url"]).to eq("http://127.0.0.1:1/o/t")
  end

  it "calls where it answers now, whatever port a letter was written on, and nobody else" do
    home = Practice::Home.new(4999)
    expect(home.find("http://127.0.0.1:4780/c/token?x=1#y").to_s).to eq("http://127.0.0.1:4999/c/token?x=1#y")
    expect(home.find("http://localhost/u/t").to_s).to eq("http://127.0.0.1:4999/u/t")
    %w[http://a.example/c/1 http://127.0.0.1.a.example/c/1 http://127.0.0.1@a.example/c/1 http://a.example/http://127.0.0.1/].each do |url|
      expect { home.find(url) }.to raise_error(Error, "Characters only call this machine, not #{URI(url).host}.")
    end
  end

  describe "an afternoon in one jump", :processes do
    it "plays letters and answers in the order they would have come" do
      people =
        %w[answering silent away failing leaver dropping refusing wary].map do |kind|
          make_person(email: "#{kind}+x@house.example", first_name: kind.capitalize)
        end
      sequence = start(make_sequence(people: people), at: now)
      with_world("post-office", "web") do
        conductor = Processes::WorkerLoop.conductor(configuration, worker)
        conductor.play_to(now + 14 * 86_400)
      end
      left = Records::Member.where(sequence_id: sequence.id).select_hash(:person_id, :left_reason)
      first, second = sequence.steps.map { |step| Records::Delivery.where(step_id: step.id).select_hash(:person_id, :state) }

      expect(people.map { |person| left[person.id] }).to eq(["replied", nil, nil, "bounced", "unsubscribed", nil, "refused", nil])
      expect(people.map { |person| first[person.id] }).to eq(%w[sent sent sent sent sent in_doubt failed failed])
      expect(people.map { |person| second[person.id] }).to eq(["skipped", "sent", "sent", "skipped", "skipped", nil, nil, nil])
      expect(received.transform_keys { |address| address[/\w+/] }).to eq(
        "answering" => 1,
        "silent" => 2,
        "away" => 2,
        "failing" => 1,
        "leaver" => 1,
        "dropping" => 1
      )
      expect(Records::Incoming.select_map(:kind).tally).to eq("reply" => 1, "automatic" => 2, "bounce" => 1)
      all = figures(sequence)
      expect(all.values_at("sent", "failed", "skipped", "in_doubt", "due").sum).to eq(all["planned"])
    end
  end
end
