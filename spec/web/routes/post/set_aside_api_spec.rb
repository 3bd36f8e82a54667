# frozen_string_literal: true

RSpec.describe "the API of what was set aside" do
  let(:people) { Array.new(3) { make_person } }
  let(:sequence) { start(make_sequence(people: people), at: now - 3600) }
  let(:first_letters) { Records::Delivery.where(sequence_id: sequence.id, step_id: sequence.steps.first.id).order(:id).all }

  before do
    first_letters.each { |letter| Work::LetterAside.call(letter, "The mail server refused it: 554 relaying denied", at: now) }
    Work::PutAside.call("mail", "a-file", KeyError.new("bytes \xFF".b), at: now + 60, source: "From: \xFF<x>\r\n\r\nwords".b)
    sign_in
  end

  it "is listed newest first, with its people, and stands under Today by its reasons" do
    things = call_api(:get, "/api/set-aside")

    expect(things["total"]).to eq(4)
    expect(things["things"].map { |thing| thing["kind"] }).to eq(%w[mail letter letter letter])
    expect(things["things"].last).to include(
      "person" => {"id" => people.first.id, "name" => people.first.name},
      "letter" => "A word",
      "sequence" => {"id" => sequence.id, "name" => "Quieter rooms"}
    )
    today = call_api(:get, "/api/today")
    expect(today["set_aside"]["reasons"].first).to include("kind" => "letter", "count" => 3)
    expect(today["failures"]).to eq([])
    expect(today["next"]).to be_nil
  end

  it "shows how a piece of mail begins, whatever bytes are in it, and what went wrong" do
    whole = call_api(:get, "/api/set-aside/#{Records::SetAside.first(kind: "mail").id}")

    expect(whole).to include("source" => "From: �<x>\r\n\r\nwords", "detail" => a_string_including("KeyError"))
  end

  it "is tried again, many at once; twice is once" do
    ids = Records::SetAside.select_map(:id)

    expect(call_api(:post, "/api/set-aside/again", {ids: ids})["taken"]).to eq(4)
    expect(call_api(:post, "/api/set-aside/again", {ids: ids})["taken"]).to eq(0)
    expect(first_letters.map { |letter| letter.refresh.state }).to eq(%w[due due due])
    expect(call_api(:get, "/api/set-aside")["things"]).to contain_exactly(include("kind" => "mail", "again" => true))
  end

  it "is left: members go on to the next letter" do
    ids = Records::SetAside.where(kind: "letter").select_map(:id)
    call_api(:post, "/api/set-aside/leave", {ids: ids})

    expect(first_letters.map { |letter| letter.refresh.state }).to eq(%w[failed failed failed])
    expect(Records::Delivery.where(sequence_id: sequence.id, state: "due").count).to eq(3)
  end

  it "is not left half done" do
    Work::PutAside.call("file", 1, "The file is gone.", at: now)
    call_api(:post, "/api/set-aside/leave", {ids: [Records::SetAside.first(kind: "file").id]}, status: 422)

    expect(answer["error"]).to include("code" => "half_done", "hint" => a_string_including("again"))
  end

  it "comes in pages" do
    120.times { |n| Work::PutAside.call("mail", "file #{n}", "Unreadable.", at: now + n) }
    first = call_api(:get, "/api/set-aside")
    second = call_api(:get, "/api/set-aside?cursor=#{first["next_cursor"]}")
    ids = [first, second].flat_map { |page| page["things"].map { |thing| thing["id"] } }

    expect(ids.sort).to eq(Records::SetAside.select_map(:id).sort)
    expect(second["next_cursor"]).to be_nil
  end
end

RSpec.describe "the API of the post and its mailboxes" do
  let(:box) { make_mailbox }

  it "says which mailbox rests and why, and wakes it" do
    5.times { Work::RestMailbox.failed(box.id, "unreachable", "connection refused", at: now) }
    sign_in
    expect(call_api(:get, "/api/today")["resting"]).to contain_exactly(
      include("address" => box.address, "rests_until" => "2026-05-12T08:15:00.000Z", "failing_words" => "connection refused")
    )

    expect(call_api(:post, "/api/mailboxes/#{box.id}/wake")).to include("rests_until" => nil)
    expect(call_api(:get, "/api/today")["resting"]).to eq([])
  end

  it "says which part stood still" do
    sign_in
    expect(call_api(:get, "/api/post")["trouble"]).to eq([])
    Work::PartsState.new(configuration.parts_state).write(["worker", "clerk 1", "clerk 2"])

    expect(call_api(:get, "/api/post")["trouble"]).to match([a_string_starting_with("Letters"), a_string_starting_with("Files")])
  ensure
    Work::PartsState.new(configuration.parts_state).clear
  end
end
