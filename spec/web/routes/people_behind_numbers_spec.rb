# frozen_string_literal: true

# No number without its people: every route that gives the people behind one gives all of them, page by page, each once.
RSpec.describe "the people behind numbers" do
  let(:people) { Array.new(130) { make_person(last_name: "Lark #{number}", city: "York") } }
  let(:sequence) { start(make_sequence(people: people, letters: [make_letter(body: "Hello {{known as|there}}")]), at: now - 7200) }
  let(:letter) { sequence.steps.first.letter }
  let(:york) { {field: "person.city", is: "one_of", value: ["York"]} }
  # By route of the contract: how it is asked, given a cursor.
  let(:asked) do
    {
      "POST /api/audience/people" => posting("/api/audience/people", audience: {condition: york}, part: "matching"),
      "POST /api/people/search" => ->(cursor) { [:post, "/api/people/search", {condition: york, limit: 60, offset: cursor.to_i}] },
      "GET /api/sequences/{id}/results/people" => getting("/api/sequences/#{sequence.id}/results/people?figure=sent"),
      "GET /api/letters/{id}/figures/people" => getting("/api/letters/#{letter.id}/figures/people?figure=sent"),
      "POST /api/letters/{id}/audience/people" => posting("/api/letters/#{letter.id}/audience/people", without: "person.known_as"),
      "GET /api/changes/{id}/kept" => getting("/api/changes/#{kept.id}/kept?")
    }
  end
  # An act that was taken back after somebody had changed everybody.
  let(:kept) do
    at = moment(account: make_account)
    act = Work::Act.new({"kind" => "field", "field" => "person.region", "value" => "North"}, at)
    set = Work::ChangeMany.start(act, Records::Person.where(id: people.map(&:id)), moment: at)
    Records::Person.where(id: people.map(&:id)).update(region: "South")
    Work::TakeBack.start(set, moment: at)
  end

  def getting(path) = ->(cursor) { [:get, "#{path}&cursor=#{cursor}", nil] }

  def posting(path, **body) = ->(cursor) { [:post, path, {**body, cursor: cursor}] }

  before do
    sign_in
    Records::Firm.save(postal_address: "4 Felt Yard")
    sequence.deliveries_dataset.update(state: "sent", sent_at: now - 60)
    sequence.deliveries_dataset.select_map(%i[person_id id]).each do |person_id, id|
      Records::Event.insert(kind: "sent", person_id: person_id, occurred_at: now - 60, delivery_id: id, sequence_id: sequence.id,
        letter_id: letter.id, step_id: sequence.steps.first.id)
    end
    # Some were heard from, most never were.
    people.first(40).each_with_index do |person, n|
      Records::Person.where(id: person.id).update(last_activity_at: now - n / 3 * 60, last_activity_kind: "opened")
    end
  end

  it "are all of them, page by page, each once" do
    asked.each do |route, question|
      found, cursor, total = [], nil, nil
      loop do
        page = call_api(*question.call(cursor))
        total ||= page["total"]
        found.concat(page["people"].map { |person| person["id"] })
        expect(page["people"].size).to be <= 100, route
        cursor = page["next_cursor"] or break
      end
      expect([found.size, found.uniq.size, total]).to eq([130, 130, 130]), "#{route}: #{found.size}, #{found.uniq.size} of #{total}"
    end
  end

  it "are asked of every route of the contract that gives a page of them" do
    contract = YAML.safe_load_file(Web::Contract::PATH)
    giving = contract["paths"].flat_map do |path, verbs|
      verbs.except("parameters").filter_map { |verb, route| "#{verb.upcase} #{path}" if route.to_s.include?("schemas/PeoplePage") }
    end

    expect(asked.keys).to match_array(giving)
  end
end
