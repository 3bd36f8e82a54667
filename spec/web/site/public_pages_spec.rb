# frozen_string_literal: true

RSpec.describe "the pages that letters lead to" do
  let(:tokens) { Core::Tracking::Token.new(configuration.secret) }
  let(:sequence) { start(make_sequence, at: now - 7200) }
  let(:delivery) { sequence.deliveries.first.update(state: "sent", sent_at: now - 3600, links: ["https://ternandfallow.example/listen"]) }
  let(:person) { delivery.person }

  before { header "User-Agent", "Mozilla/5.0 (X11) PracticeReader/1.0" }

  def kinds(by_machine: false) = Records::Event.where(person_id: person.id, by_machine: by_machine).select_map(:kind)

  it "notes an open by a person and answers with a picture" do
    get "/o/#{tokens.write(:open, delivery.key)}.gif"

    expect(last_response.headers).to include("content-type" => "image/gif", "cache-control" => "no-store")
    expect(kinds).to include("opened")
    expect(person.refresh).to have_attributes(last_activity_kind: "opened", last_activity_at: now)
  end

  it "is kept by nobody on the way, wherever it leads" do
    click, out = tokens.write(:click, delivery.key, 0), tokens.write(:unsubscribe, delivery.key)
    ["/c/#{click}", "/c/nothing", "/u/#{out}", "/u/nothing", "/o/nothing.gif"].each do |path|
      get path
      expect(last_response.headers["cache-control"]).to eq("no-store"), path
    end
    post "/u/#{out}"
    expect(last_response.headers["cache-control"]).to eq("no-store")
  end

  it "keeps a scanner's open apart" do
    header "User-Agent", "practice-link-scanner/1.0"
    get "/o/#{tokens.write(:open, delivery.key)}.gif"

    expect(kinds(by_machine: true)).to eq(["opened"])
    expect(kinds).not_to include("opened")
  end

  it "leads a click only where the letter led" do
    get "/c/#{tokens.write(:click, delivery.key, 0)}"
    expect([last_response.status, last_response.headers["location"]]).to eq([302, "https://ternandfallow.example/listen"])

    get "/c/#{tokens.write(:click, delivery.key, 7)}"
    expect(last_response.status).to eq(404)
  end

  describe "fetched again and again" do
    let(:link) { "/c/#{tokens.write(:click, delivery.key, 0)}" }

    def clicks = kinds.count("clicked")

    it "counts one link of one letter once a day, however often it is fetched" do
      20.times { get link }
      expect([clicks, last_response.status]).to eq([1, 302])
      standing_clock.now = now + 23 * 3600
      get link
      expect(clicks).to eq(1)
      standing_clock.now = now + 24 * 3600
      get link
      expect(clicks).to eq(2)
    end

    it "counts another link, and an open, for itself" do
      delivery.update(links: ["https://ternandfallow.example/listen", "https://ternandfallow.example/felt"])
      2.times do
        get link
        get "/c/#{tokens.write(:click, delivery.key, 1)}"
        get "/o/#{tokens.write(:open, delivery.key)}.gif"
      end
      expect([clicks, kinds.count("opened")]).to eq([2, 1])
    end

    it "hides no person behind a scanner that came first" do
      header "User-Agent", "practice-link-scanner/1.0"
      2.times { get link }
      header "User-Agent", "Mozilla/5.0 (X11) PracticeReader/1.0"
      get link
      expect([clicks, kinds(by_machine: true).count("clicked")]).to eq([1, 1])
    end
  end

  it "does nothing with a token that was tampered with" do
    token = tokens.write(:click, delivery.key, 0)
    ["/c/#{token}x", "/c/#{token.sub("c.", "u.")}", "/u/#{tokens.write(:open, delivery.key)}", "/c/https://evil.example"].each do |path|
      get path
      expect([last_response.status, last_response.body]).to match([404, a_string_including("leads nowhere")]), path
    end
    expect(kinds - %w[joined]).to be_empty
  end

  it "takes nobody off on a look, and everybody on one click (RFC 8058)" do
    path = "/u/#{tokens.write(:unsubscribe, delivery.key)}"
    get path
    expect(person.refresh.do_not_mail).to be(false)

    2.times { post path, "List-Unsubscribe=One-Click" }
    expect(last_response.status).to eq(200)
    expect(person.refresh.do_not_mail).to be(true)
    expect(kinds.count("unsubscribed")).to eq(1)
    expect(figures(sequence)).to include("planned" => 2, "sent" => 1, "skipped" => 1)
  end
end
